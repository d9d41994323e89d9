import { mkdtempSync, readdirSync, readlinkSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { finished } from 'node:stream/promises';
import { fromBufferPromise } from 'yauzl';
import { Archive } from '../../src/files/archive';
import { until } from '../support/harness';

const folder = mkdtempSync(join(tmpdir(), 'folvex-archive-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = { mtime: new Date('2026-11-25T12:00:00Z') };

function file(name: string, bytes: number): string {
  const path = join(folder, name);
  writeFileSync(path, Buffer.alloc(bytes, 7));
  return path;
}

/** Files of the folder that this process has open. */
function open(): string[] {
  const links = readdirSync('/proc/self/fd').flatMap((one) => {
    try {
      return [readlinkSync(`/proc/self/fd/${one}`)];
    } catch {
      // Closed meanwhile.
      return [];
    }
  });
  return links.filter((target) => target.startsWith(folder));
}

describe('an archive', () => {
  it('holds its files under their names, and is the same each time', async () => {
    const write = (): Promise<Buffer> => {
      const archive = new Archive();
      archive.file(async () => file('a', 100), 'Plans/A-101 Größe.pdf', at);
      archive.text('{}', 'job.json', at);
      const out = new PassThrough();
      archive.pipe(out);
      return buffer(out);
    };
    const [first, second] = [await write(), await write()];
    expect(first.equals(second)).toBe(true);
    const zip = await fromBufferPromise(first);
    const names: string[] = [];
    for await (const entry of zip.eachEntry()) names.push(`${entry.fileName} ${entry.uncompressedSize}`);
    expect(names).toEqual(['Plans/A-101 Größe.pdf 100', 'job.json 2']);
  });

  it('breaks off where a file is missing', async () => {
    const archive = new Archive();
    archive.file(async () => file('b', 100), 'b.pdf', at);
    archive.file(async () => join(folder, 'none'), 'none.pdf', at);
    const out = new PassThrough();
    archive.pipe(out);
    out.resume();
    await expect(finished(out)).rejects.toThrow('ENOENT');
  });

  it('leaves nothing open where whoever reads it goes away', async () => {
    const archive = new Archive();
    for (const name of ['c', 'd']) archive.file(async () => file(name, 8_000_000), name, { ...at, compress: false });
    const out = new PassThrough();
    archive.pipe(out);
    // Nobody reads on: the first file is open and waits.
    await until(
      () => Promise.resolve(open()),
      (files) => files.length > 0,
    );
    out.destroy();
    expect(
      await until(
        () => Promise.resolve(open()),
        (files) => files.length === 0,
      ),
    ).toEqual([]);
  });
});
