import { Cron } from 'croner';
import type { SheetPackage } from './model';

/** Days of a package's schedule as cron has them (POSIX, crontab: day of the week, 0 is Sunday). */
const DAYS = {
  ...{ day: '*', weekday: '1-5', monday: '1', tuesday: '2', wednesday: '3', thursday: '4', friday: '5' },
  ...{ saturday: '6', sunday: '0' },
} as const;
export const USUAL_TIME = '16:00';

type Scheduled = Pick<SheetPackage, 'publishes' | 'publishAt' | 'pausedUntil'>;

/**
 * The next times at which a package publishes by itself, after `after` (ms since 1970), at most so many; none where it does
 * so by hand, or when something changes. `zone`: of its time of day (IANA).
 */
export function scheduledTimes(
  { publishes, publishAt, pausedUntil = '' }: Scheduled,
  { after, zone, count }: { after: number; zone: string; count: number },
): number[] {
  if (publishes === undefined || publishes === 'change') return [];
  const [hour, minute] = (publishAt || USUAL_TIME).split(':').map(Number) as [number, number];
  const cron = new Cron(`${minute} ${hour} * * ${DAYS[publishes]}`, { timezone: zone, paused: true });
  const times: number[] = [];
  // The day before begins somewhere else than here; what is too early is skipped below.
  const resumes = pausedUntil === '' ? after : Date.parse(`${pausedUntil}T00:00Z`) - DAY_MS;
  for (let at = cron.nextRun(new Date(Math.max(after, resumes))); at && times.length < count; at = cron.nextRun(at))
    if (dayIn(zone, at) >= pausedUntil) times.push(at.getTime());
  return times;
}

/** Whether a package publishes nothing by itself at a time, ms since 1970. */
export function isPaused({ pausedUntil = '' }: Scheduled, at: number, zone: string): boolean {
  return dayIn(zone, new Date(at)) < pausedUntil;
}

const DAY_MS = 24 * 3600_000;

/** The day of an instant in a time zone, YYYY-MM-DD. */
export function dayIn(zone: string, at: Date): string {
  const parts = new Intl.DateTimeFormat('en', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
  const of = Object.fromEntries(parts.formatToParts(at).map(({ type, value }) => [type, value]));
  return `${of['year']}-${of['month']}-${of['day']}`;
}
