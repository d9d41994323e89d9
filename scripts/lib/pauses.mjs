const FIRST_PAUSE_MS = 250;
const MAX_PAUSE_MS = 15_000;

/** How long to wait before something that stopped is started again, ms: twice as long after each failure in a row. */
export function restartPause(failures) {
  return Math.min(MAX_PAUSE_MS, FIRST_PAUSE_MS * 2 ** failures);
}

export function sleep(milliseconds) {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}
