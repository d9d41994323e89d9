import {
  existsSync,
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ConflictPolicy, Delivered } from '@folvex/core';
import { openDestination } from '../../src/destinations';
import { deliver, numberedNames } from '../../src/destinations/deliver';
import { folderDestination } from '../../src/destinations/kinds/folder';
import type { DeliveredFile, DestinationPort } from '../../src/destinations/port';
import { sha256 } from '../../src/files/whole-file';

let work: string;
let target: string;

beforeEach(() => {
  work = mkdtempSync(join(tmpdir(), 'folvex-destination-'));
  target = join(work, 'out', 'to');
});

afterEach(() => rmSync(work, { recursive: true, force: true }));

/** A finished file with some text. */
function finished(path: string, text: string): DeliveredFile {
  const from = join(work, `finished-${sha256(text).slice(0, 8)}`);
  writeFileSync(from, text);
  return { from, hash: sha256(text), path };
}

/** Puts a file at the destination beforehand. */
function there(path: string, text: string): void {
  mkdirSync(join(target, path, '..'), { recursive: true });
  writeFileSync(join(target, path), text);
}

const read = (path: string): string => readFileSync(join(target, path), 'utf8');
const send = (file: DeliveredFile, onConflict: ConflictPolicy): Promise<Delivered> =>
  deliver(folderDestination(target), file, onConflict);

/** Every name below the destination, hidden ones too. */
function names(): string[] {
  return readdirSync(target, { recursive: true, encoding: 'utf8' }).sort();
}

describe('delivering to a folder', () => {
  it('creates the folders that a file needs, and leaves nothing unfinished', async () => {
    expect(await send(finished('Plans/A-101.pdf', 'one'), 'stop')).toEqual({
      ...{ path: 'Plans/A-101.pdf', how: 'new', bytes: 3 },
      // `printf one | sha256sum`
      hash: { algorithm: 'SHA-256', hex: '7692c3ad3540bb803c020b3aee66cd8887123234ea0c6e7143c0add73ff431ed' },
    });
    expect(read('Plans/A-101.pdf')).toBe('one');
    expect(names()).toEqual(['Plans', 'Plans/A-101.pdf']);
  });

  it.each<ConflictPolicy>(['stop', 'both', 'rename', 'replace'])(
    'leaves a file with the same content alone, whatever is asked for: %s',
    async (onConflict) => {
      there('A-101.pdf', 'one');
      const before = lstatSync(join(target, 'A-101.pdf')).ino;
      expect(await send(finished('A-101.pdf', 'one'), onConflict)).toMatchObject({
        path: 'A-101.pdf',
        how: 'there already',
      });
      expect(lstatSync(join(target, 'A-101.pdf')).ino).toBe(before);
      expect(names()).toEqual(['A-101.pdf']);
    },
  );

  it('stops at a file with other content, names it and says what to do', async () => {
    there('A-101.pdf', 'other');
    const { problem } = (await send(finished('A-101.pdf', 'one'), 'stop')) as Extract<Delivered, { problem: unknown }>;
    expect(problem.code).toBe('destination.conflict');
    expect(problem.place).toEqual({ file: 'A-101.pdf' });
    expect(problem.sentence).toMatch(/^A-101\.pdf is at the destination already, .*; choose .*\.$/);
    expect(read('A-101.pdf')).toBe('other');
    expect(names()).toEqual(['A-101.pdf']);
  });

  it('replaces it, or keeps both under the first number that is free', async () => {
    there('A-101.pdf', 'other');
    there('A-101 (2).pdf', 'a third');
    expect(await send(finished('A-101.pdf', 'one'), 'both')).toMatchObject({ path: 'A-101 (3).pdf', how: 'numbered' });
    // Done again, nothing is added: the numbered one is found.
    expect(await send(finished('A-101.pdf', 'one'), 'both')).toMatchObject({
      path: 'A-101 (3).pdf',
      how: 'there already',
    });
    expect(await send(finished('A-101.pdf', 'one'), 'replace')).toMatchObject({ path: 'A-101.pdf', how: 'replaced' });
    expect(names().map((name) => [name, read(name)])).toEqual([
      ['A-101 (2).pdf', 'a third'],
      ['A-101 (3).pdf', 'one'],
      ['A-101.pdf', 'one'],
    ]);
  });

  it('adds its date to the older file, which stays as it is', async () => {
    there('Plans/A-101.pdf', 'other');
    const written = new Date(2026, 10, 27, 12);
    utimesSync(join(target, 'Plans/A-101.pdf'), written, written);
    const older = 'Plans/A-101 (2026-11-27).pdf';
    expect(await send(finished('Plans/A-101.pdf', 'one'), 'rename')).toMatchObject({
      ...{ path: 'Plans/A-101.pdf', how: 'new', older },
    });
    expect([read('Plans/A-101.pdf'), read(older)]).toEqual(['one', 'other']);
    expect(lstatSync(join(target, older)).mtime).toEqual(written);
    // Where it has no such name yet, nothing is renamed.
    expect(await send(finished('A-102.pdf', 'two'), 'rename')).toMatchObject({ path: 'A-102.pdf', how: 'new' });
    expect(names()).toEqual(['A-102.pdf', 'Plans', older, 'Plans/A-101.pdf']);
  });

  it('delivers a file once when it is delivered many times at once', async () => {
    const file = finished('A-101.pdf', 'one');
    const all = await Promise.all(Array.from({ length: 12 }, () => send(file, 'stop')));
    expect(all.filter((one) => 'how' in one && one.how === 'new')).toHaveLength(1);
    expect(all.filter((one) => 'how' in one && one.how === 'there already')).toHaveLength(11);
    expect(names()).toEqual(['A-101.pdf']);
  });

  it('gives each of several files with one name a place, when both are to be kept', async () => {
    const texts = ['one', 'two', 'three', 'four'];
    const all = await Promise.all(texts.map((text) => send(finished('A-101.pdf', text), 'both')));
    const paths = all.map((one) => ('path' in one ? one.path : ''));
    expect([...paths].sort()).toEqual(['A-101 (2).pdf', 'A-101 (3).pdf', 'A-101 (4).pdf', 'A-101.pdf']);
    expect(paths.map(read)).toEqual(texts);
  });

  it('takes a link that leads nowhere for something that is there', async () => {
    mkdirSync(target, { recursive: true });
    symlinkSync(join(work, 'gone.pdf'), join(target, 'A-101.pdf'));
    expect(await send(finished('A-101.pdf', 'one'), 'stop')).toMatchObject({
      problem: { code: 'destination.conflict' },
    });
    expect(existsSync(join(work, 'gone.pdf'))).toBe(false);
    expect(await send(finished('A-101.pdf', 'one'), 'replace')).toMatchObject({ path: 'A-101.pdf', how: 'replaced' });
    expect(lstatSync(join(target, 'A-101.pdf')).isSymbolicLink()).toBe(false);
    expect(existsSync(join(work, 'gone.pdf'))).toBe(false);
  });

  it('says in one sentence that a file cannot take the place of a folder', async () => {
    there('A-101.pdf/inside.txt', 'kept');
    expect(await send(finished('A-101.pdf', 'one'), 'replace')).toMatchObject({
      problem: { code: 'destination.copy', place: { file: 'A-101.pdf' } },
    });
    expect(names()).toEqual(['A-101.pdf', 'A-101.pdf/inside.txt']);
  });
});

describe('a folder as a destination', () => {
  it('is tested without leaving anything in it, and created', async () => {
    expect(await folderDestination(target).test()).toBeUndefined();
    expect(names()).toEqual([]);
  });

  it('says why nothing can be written to it', async () => {
    writeFileSync(join(work, 'file'), '');
    const problem = await folderDestination(join(work, 'file', 'below')).test();
    expect(problem).toMatchObject({ code: 'destination.folder' });
    expect(problem!.sentence).toMatch(
      /^Nothing can be written to .*file\/below \(E[A-Z]+\); give the path of a folder/,
    );
  });

  it('lists those of some paths that are taken', async () => {
    there('Plans/A-101.pdf', 'one');
    symlinkSync(join(work, 'nowhere'), join(target, 'A-102.pdf'));
    const listed = await folderDestination(target).list(['Plans/A-101.pdf', 'A-102.pdf', 'A-103.pdf', 'Plans/A-9.pdf']);
    expect(listed).toEqual(['Plans/A-101.pdf', 'A-102.pdf']);
  });

  it('tells content by its hash, and a folder from a missing file', async () => {
    there('A-101.pdf', 'one');
    const folder = folderDestination(target);
    mkdirSync(join(target, 'Plans'));
    expect(await folder.hashOf('A-101.pdf')).toBe(sha256('one'));
    expect(await folder.hashOf('Plans')).toBe('other');
    expect(await folder.hashOf('A-102.pdf')).toBeUndefined();
  });
});

describe('a folder destination', () => {
  it('is below the folder that the machine delivers to, whatever it is called', async () => {
    const where = async (folder: string): Promise<string> =>
      (await openDestination({ kind: 'folder', folder, onConflict: 'stop' }, { deliveryFolder: work })).where;
    expect(await where('2617/Permit')).toBe(join(work, '2617', 'Permit'));
    expect(await where('../../etc')).toBe(join(work, 'etc'));
  });
});

const many = (name: string): string[] => [
  `${name}.pdf`,
  ...Array.from({ length: 30 }, (_, i) => `${name} (${i + 2}).pdf`),
];

describe('delivering to any destination', () => {
  /** A destination in memory, which may fail and may be changed by somebody else. */
  function memory(files: Map<string, string>, put?: DestinationPort['put']): DestinationPort {
    return {
      where: 'memory',
      test: async () => undefined,
      list: async (paths) => paths.filter((path) => files.has(path)),
      hashOf: async (path) => files.get(path),
      put:
        put ??
        (async ({ path, hash }, { replace }) => {
          if (files.has(path) && !replace) return false;
          files.set(path, hash);
          return true;
        }),
      find: async (path) =>
        files.has(path) ? { bytes: 3, writtenAt: new Date(2026, 10, 28, 23, 59).getTime() } : undefined,
      reportedHash: async () => undefined,
      rename: async (path, to) => {
        if (files.has(to)) return false;
        files.set(to, files.get(path)!);
        files.delete(path);
        return true;
      },
      close: async () => undefined,
    };
  }

  const FILE: DeliveredFile = { from: '', hash: 'one', path: 'A.pdf' };

  it('does not count a file as delivered when its hash at the destination differs', async () => {
    const reporting = (hex: string): DestinationPort => ({
      ...memory(new Map()),
      reportedHash: async () => ({ algorithm: 'SHA-256', hex }),
    });
    expect(await deliver(reporting('one'), FILE, 'stop')).toMatchObject({
      how: 'new',
      hash: { algorithm: 'SHA-256', hex: 'one' },
    });
    expect(await deliver(reporting('two'), FILE, 'stop')).toMatchObject({
      problem: {
        code: 'destination.copy',
        sentence: expect.stringContaining('its SHA-256 at the destination does not match') as string,
      },
    });
  });

  it('says beforehand which numbers new files get, as far as they are free', async () => {
    const files = ['A.pdf', 'A (2).pdf', 'A (3).pdf', 'B.pdf', 'no ending', ...many('C')];
    const names = await numberedNames(memory(new Map(files.map((path) => [path, ''])), undefined), [
      ...['A.pdf', 'B.pdf', 'no ending', 'C.pdf'],
    ]);
    expect(names).toEqual({
      ...{ 'A.pdf': 'A (4).pdf', 'B.pdf': 'B (2).pdf', 'no ending': 'no ending (2)' },
    });
  });

  it('decides what becomes of a taken name by the policy alone', async () => {
    const files = new Map([['A.pdf', 'other']]);
    expect(await deliver(memory(files), FILE, 'stop')).toMatchObject({ problem: { code: 'destination.conflict' } });
    expect(await deliver(memory(files), FILE, 'both')).toMatchObject({ path: 'A (2).pdf', how: 'numbered' });
    expect(await deliver(memory(files), FILE, 'replace')).toMatchObject({ path: 'A.pdf', how: 'replaced' });
    expect([...files]).toEqual([
      ['A.pdf', 'one'],
      ['A (2).pdf', 'one'],
    ]);
  });

  it('adds its date to the older file, and a number where that name is taken too', async () => {
    const files = new Map([['in/A.pdf', 'other']]);
    const at = { ...FILE, path: 'in/A.pdf' };
    const older = 'in/A (2026-11-28).pdf';
    expect(await deliver(memory(files), at, 'rename')).toMatchObject({ path: 'in/A.pdf', how: 'new', older });
    expect(await deliver(memory(files), at, 'rename')).toMatchObject({ path: 'in/A.pdf', how: 'there already' });
    expect(await deliver(memory(files), { ...at, hash: 'two' }, 'rename')).toMatchObject({
      ...{ path: 'in/A.pdf', how: 'new', older: 'in/A (2026-11-28) (2).pdf' },
    });
    expect(Object.fromEntries(files)).toEqual({
      ...{ 'in/A.pdf': 'two', [older]: 'other', 'in/A (2026-11-28) (2).pdf': 'one' },
    });
  });

  it('gives up where the name is taken again and again while the older file is renamed', async () => {
    const busy = { ...memory(new Map([['A.pdf', 'other']])), put: async () => false };
    expect(await deliver(busy, FILE, 'rename')).toMatchObject({ problem: { code: 'destination.conflict' } });
  });

  it('takes a name that somebody else took just now with the same content as delivered', async () => {
    const files = new Map<string, string>();
    const raced = memory(files, async ({ path, hash }) => {
      files.set(path, hash);
      return false;
    });
    expect(await deliver(raced, FILE, 'stop')).toMatchObject({ path: 'A.pdf', how: 'there already' });
  });

  it('passes on why it could not be reached, with what to do', async () => {
    const full = memory(new Map(), () => Promise.reject(Object.assign(new Error('full'), { code: 'ENOSPC' })));
    expect(await deliver(full, FILE, 'both')).toMatchObject({
      problem: {
        code: 'destination.copy',
        sentence:
          'A.pdf could not be delivered (ENOSPC); make sure that the destination can be written to and has room, and send it again.',
      },
    });
  });

  it('gives up where every number is taken', async () => {
    const taken: DestinationPort = { ...memory(new Map()), hashOf: async () => 'other', put: async () => false };
    expect(await deliver(taken, FILE, 'both')).toMatchObject({ problem: { code: 'destination.conflict' } });
  });
});
