import { expose } from 'comlink';
import { unzipSync, zipSync, type Zippable } from 'fflate';
import type { LinkedFile, Problem } from '@folvex/core';
import { linksIn, relinked } from '@folvex/core/foreign';
import type { GivenFile, RelinkEngine } from './relink-protocol';

let set = new Map<string, Uint8Array<ArrayBuffer>>();
/** Files of a set that cannot be changed go along as they are. */
const MAX_ARCHIVE_BYTES = 2_000_000_000;
/** ZIP knows no earlier day; the same set gives the same archive. */
const DAY = new Date(1980, 0, 1);

const engine: RelinkEngine = {
  async look(given, progress) {
    const problems: Problem[] = [];
    set = new Map(given.flatMap((file) => opened(file, problems)));
    const files: LinkedFile[] = [];
    for (const [path, bytes] of set) {
      const found = await linksIn(bytes, path);
      if (!found.ok) problems.push(found.problem);
      files.push({ path, targets: found.ok ? found.value : [] });
      progress(files.length, set.size);
    }
    return { files, problems };
  },

  async apply(plan, progress) {
    const archive: Zippable = {};
    let done = 0;
    for (const { from, to } of plan.files) {
      const bytes = set.get(from)!;
      const links = plan.links.filter((link) => link.file === from && link.to !== undefined);
      const changes = new Map(links.map((link) => [link.target, link.to!]));
      const made = changes.size > 0 ? await relinked(bytes, from, changes) : undefined;
      // PDF content is deflated already.
      archive[to] = [made?.ok ? made.value : bytes, { level: 0, mtime: DAY }];
      progress(++done, plan.files.length);
    }
    return zipSync(archive) as Uint8Array<ArrayBuffer>;
  },
};

expose(engine);

/** The PDFs of a file: itself, or what an archive holds. */
function opened({ path, bytes }: GivenFile, problems: Problem[]): [string, Uint8Array<ArrayBuffer>][] {
  if (/\.pdf$/i.test(path)) return [[path, bytes]];
  const refuse = (sentence: string): [] => {
    problems.push({ code: 'relink.file', sentence, place: { file: path } });
    return [];
  };
  if (!/\.zip$/i.test(path)) return refuse(`${path} is neither a PDF nor a ZIP archive, and was left out.`);
  try {
    let size = 0;
    const files = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        const pdf = /\.pdf$/i.test(name) && !name.split('/').includes('..');
        if (pdf) size += originalSize;
        return pdf && size <= MAX_ARCHIVE_BYTES;
      },
    });
    if (size > MAX_ARCHIVE_BYTES) return refuse(`${path} holds more than 2 GB of PDFs; give them in parts.`);
    return Object.entries(files) as [string, Uint8Array<ArrayBuffer>][];
  } catch {
    return refuse(`${path} cannot be read as a ZIP archive; pack the folder anew.`);
  }
}
