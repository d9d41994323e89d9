import { CacheByBytes } from '../../src/files/cache-by-bytes';

describe('a cache by the bytes of files', () => {
  const cache = new CacheByBytes<string>({ max: 3, maxFileBytes: 100 });
  const made: string[] = [];
  const get = (key: string, bytes: number): Promise<string> =>
    cache.get(key, async () => (made.push(key), key.toUpperCase()), bytes);
  beforeEach(() => made.splice(0));

  it('makes a thing once, and again when it was dropped for others used later', async () => {
    expect([await get('a', 40), await get('b', 40), await get('a', 40)]).toEqual(['A', 'B', 'A']);
    await get('c', 40);
    await get('a', 40);
    await get('b', 40);
    expect(made).toEqual(['a', 'b', 'c', 'b']);
  });

  it('keeps the last one however large it is, and it alone', async () => {
    await get('a', 10);
    await get('huge', 5000);
    await get('huge', 5000);
    await get('a', 10);
    expect(made).toEqual(['huge', 'a']);
  });

  it('does not keep what could not be made', async () => {
    const broken = (): Promise<string> => Promise.reject(new Error('no'));
    await expect(cache.get('x', broken, 1)).rejects.toThrow('no');
    expect(await get('x', 1)).toBe('X');
  });
});
