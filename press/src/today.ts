/** The day on this machine's clock, in its time zone, YYYY-MM-DD. */
export function today(): string {
  return dateOf(new Date());
}

/** The day of a moment in the time zone of this machine, YYYY-MM-DD. */
export function dateOf(moment: Date): string {
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
}
