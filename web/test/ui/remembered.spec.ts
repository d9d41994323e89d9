import { remembered } from '../../src/ui/remembered';

it('works out what changed only: another item, or other inputs', () => {
  const work = jest.fn((item: { name: string }, by: number) => ({ words: `${item.name} ${by}` }));
  const words = remembered(work);
  const [a, b] = [{ name: 'a' }, { name: 'b' }];
  const first = words(a, 1);
  expect(words(a, 1)).toBe(first);
  expect([words(b, 1).words, words(a, 2).words, words(a, 2).words]).toEqual(['b 1', 'a 2', 'a 2']);
  expect(work).toHaveBeenCalledTimes(3);
});
