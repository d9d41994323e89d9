/** In place of the thread that paints pages, which a component test has no use for. */
export function startPageWorker(): Pick<Worker, 'postMessage' | 'addEventListener' | 'removeEventListener'> {
  return { postMessage: () => undefined, addEventListener: () => undefined, removeEventListener: () => undefined };
}
