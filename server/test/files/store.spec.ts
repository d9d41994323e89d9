import { existsSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { sha256 } from '@folvex/press';
import { ownFolder } from '../../../scripts/lib/own-folder.mjs';
import { Bucket } from '@folvex/press/bucket';
import { createBucketStore } from '../../src/files/bucket-store';
import { folderProblem } from '../../src/files/folder-problem';
import { createFolderStore } from '../../src/files/folder-store';
import type { Store } from '../../src/files/store';
import { bucketSettings, startBucket } from '../../../press/test/support/bucket';

const folder = ownFolder('folvex-store-');
const service = startBucket(join(folder, 'service'));
afterAll(async () => {
  await (await service).close();
  rmSync(folder, { recursive: true, force: true });
});
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const HOUR_MS = 3600_000;

const KINDS: Record<string, () => Promise<Store>> = {
  folder: async () => createFolderStore(join(folder, 'store')),
  bucket: async () =>
    createBucketStore(new Bucket(bucketSettings((await service).port)), {
      cache: createFolderStore(join(folder, 'cache')),
      maxCacheBytes: 1e6,
    }),
};

describe.each(Object.keys(KINDS))('a store in a %s', (kind) => {
  let store: Store;
  beforeAll(async () => {
    store = await KINDS[kind]!();
  });

  it('keeps content under its hash, once', async () => {
    const hash = await store.put(bytes('a wall'));
    expect(hash).toBe(sha256('a wall'));
    expect(await store.put(bytes('a wall'))).toBe(hash);
    expect((await store.read(hash)).toString()).toBe('a wall');
    expect((await buffer(await store.stream(hash))).toString()).toBe('a wall');
    expect(await store.localFile(hash)).toContain(join(hash.slice(0, 2), hash.slice(2, 4), hash));
    expect(await store.has(hash)).toBe(true);
    const found: unknown[] = [];
    for await (const content of store.contents()) found.push(content);
    expect(found).toEqual([{ hash, bytes: 6, usedAt: expect.any(Number) as number }]);
  });

  it('says what it does not have', async () => {
    const none = sha256('something else');
    expect(await store.has(none)).toBe(false);
    for (const ask of [() => store.read(none), () => store.localFile(none), () => store.stream(none)])
      await expect(ask()).rejects.toThrow(`no longer in the store (${none})`);
  });

  it('takes in files that others wrote, and drops what it holds already', async () => {
    const file = join(store.workFolder, 'made');
    for (let i = 0; i < 2; i++) {
      writeFileSync(file, 'a part');
      await store.adopt(file, sha256('a part'));
      expect(existsSync(file)).toBe(false);
    }
    expect((await store.read(sha256('a part'))).toString()).toBe('a part');
  });

  it('takes in a stream, or nothing of it', async () => {
    const { hash, bytes } = await store.receive(
      Readable.from([Buffer.from('sent '), Buffer.from('in parts')]),
      () => 0,
    );
    expect([hash, bytes]).toEqual([sha256('sent in parts'), 13]);
    const refused = store.receive(Readable.from([Buffer.from('too large')]), () => {
      throw new Error('no');
    });
    await expect(refused).rejects.toThrow('no');
    expect(await store.has(sha256('too large'))).toBe(false);
    expect(readdirSync(store.workFolder)).toEqual([]);
  });

  it('removes what nobody has asked for since a moment, and nothing else', async () => {
    const hash = await store.put(bytes('a door'));
    expect(await store.removeUnused(hash, Date.now() - HOUR_MS)).toBe(false);
    expect(await store.has(hash)).toBe(true);
    expect(await store.removeUnused(hash, Date.now() + HOUR_MS)).toBe(true);
    await store.purge(Date.now() + HOUR_MS, () => false);
    expect(await store.has(hash)).toBe(false);
  });

  it.each(['', 'abc', '../../etc/passwd', 'G'.repeat(64)])('knows that %j is not a hash', async (hash) => {
    await expect(store.has(hash)).rejects.toThrow('not a SHA-256');
  });

  it('can be written to', async () => {
    expect(await store.problem()).toBeUndefined();
  });
});

describe('a store in a folder', () => {
  it('is closed to other people on the machine', () => {
    expect(statSync(join(folder, 'store')).mode & 0o777).toBe(0o700);
  });

  it('tells content that was damaged on its disk', async () => {
    const store = await KINDS['folder']!();
    const hash = await store.put(bytes('a roof'));
    writeFileSync(await store.localFile(hash), 'a root');
    await expect(store.read(hash)).rejects.toThrow(`something else under ${hash}`);
  });
});

describe('a data folder', () => {
  it('that can be written to gives no problem', () => {
    expect(folderProblem(join(folder, 'new', 'one'))).toBeUndefined();
  });

  it('that cannot be made is told in one sentence', () => {
    writeFileSync(join(folder, 'file'), '');
    expect(folderProblem(join(folder, 'file', 'below'))).toMatch(
      /^Folvex cannot write to .*file\/below \(ENOTDIR\); give it/,
    );
  });
});
