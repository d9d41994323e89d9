/**
 * Has at most `limit` tasks running at a time; of those that wait, the one that was asked for last begins next: while
 * thousands of pages are scrolled through, those in sight now come first, and connections to the server are left for
 * what is saved.
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
