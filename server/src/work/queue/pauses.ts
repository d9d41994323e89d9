/** Whoever is away is tried again after these pauses, s: for 80 minutes in all. */
const PAUSES_S = [2, 10, 60, 300, 900, 3600] as const;

/** How long to wait after so many attempts that failed, s; undefined: there were enough. */
export function pauseAfter(attempts: number): number | undefined {
  return PAUSES_S[attempts - 1];
}
