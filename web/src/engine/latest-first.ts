/**
 * Runs at most `limit` tasks at a time; of those waiting, the newest starts next. While thousands of pages scroll past,
 * the ones in view come first, and some of the browser's connections stay free for saving.
 */
export function latestFirst(limit: number): <T>(task: () => Promise<T>) => Promise<T> {
  const waiting: (() => void)[] = [];
  let running = 0;
  const next = (): void => {
    if (running === limit) return;
    const begin = waiting.pop();
    if (!begin) return;
    running++;
    begin();
  };
  return (task) =>
    new Promise((resolve, reject) => {
      waiting.push(() => {
        void task()
          .then(resolve, reject)
          .finally(() => {
            running--;
            next();
          });
      });
      next();
    });
}
