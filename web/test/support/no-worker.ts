/** In place of the threads that paint, which a component test has no use for. */
export function startPageWorker(): Pick<Worker, 'postMessage' | 'addEventListener' | 'removeEventListener'> {
  return { postMessage: () => undefined, addEventListener: () => undefined, removeEventListener: () => undefined };
}

export const startDrawingWorker = startPageWorker;
export const startRelinkWorker = startPageWorker;
export const startCompareWorker = startPageWorker;
export const startPlanWorker = startPageWorker;
