/** Starts the thread that paints pages. Alone in a file, so that tests can put something else in its place. */
export function startPageWorker(): Worker {
  return new Worker(new URL('./page.worker', import.meta.url), { type: 'module' });
}
