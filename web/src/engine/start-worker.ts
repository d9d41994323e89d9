/** Starts the threads that paint. Alone in a file, so that tests can put something else in its place. */
export function startPageWorker(): Worker {
  return new Worker(new URL('./page.worker', import.meta.url), { type: 'module' });
}

export function startDrawingWorker(): Worker {
  return new Worker(new URL('./drawing.worker', import.meta.url), { type: 'module' });
}

export function startRelinkWorker(): Worker {
  return new Worker(new URL('./relink.worker', import.meta.url), { type: 'module' });
}

export function startCompareWorker(): Worker {
  return new Worker(new URL('./compare.worker', import.meta.url), { type: 'module' });
}

export function startPlanWorker(): Worker {
  return new Worker(new URL('./plan.worker', import.meta.url), { type: 'module' });
}
