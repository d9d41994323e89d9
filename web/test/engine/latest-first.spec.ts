import { latestFirst } from '../../src/engine/latest-first';

/** A task that ends when it is told to. */
function task(name: string, begun: string[]) {
  let end!: () => void;
  const ended = new Promise<void>((resolve) => (end = resolve));
  return { run: () => (begun.push(name), ended.then(() => name)), end };
}

it('begins the task that was asked for last, never more of them at once than the limit', async () => {
  const begun: string[] = [];
  const queue = latestFirst(2);
  const tasks = ['a', 'b', 'c', 'd'].map((name) => task(name, begun));
  const results = tasks.map(({ run }) => queue(run));
  expect(begun).toEqual(['a', 'b']);
  tasks[0]!.end();
  expect(await results[0]).toBe('a');
  await Promise.resolve();
  expect(begun).toEqual(['a', 'b', 'd']);
  tasks.forEach(({ end }) => end());
  expect(await Promise.all(results)).toEqual(['a', 'b', 'c', 'd']);
});

it('goes on after a task that failed', async () => {
  const queue = latestFirst(1);
  const failed = queue(() => Promise.reject(new Error('gone')));
  const after = queue(() => Promise.resolve('there'));
  await expect(failed).rejects.toThrow('gone');
  expect(await after).toBe('there');
});
