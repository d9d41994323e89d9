/** What schedules follow in this installation. */
export interface ScheduleRules {
  /** Time zone of their times of day (IANA). */
  zone: string;
  /** Nothing may have changed for this long before a package publishes because of a change. */
  quietMinutes: number;
}
