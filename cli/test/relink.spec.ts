import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import PDFKit from 'pdfkit';

const folder = mkdtempSync(join(tmpdir(), 'folvex-relink-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const COUNT = 100;

const number = (i: number): string => `A-${101 + i}`;

/** PDFs of another program, each with a link to the next and to one far away, renamed by a shell script afterwards. */
async function renamedSet(): Promise<string> {
  const set = join(folder, 'set');
  mkdirSync(set);
  for (let i = 0; i < COUNT; i++) {
    const kit = new PDFKit({ size: [300, 200] });
    const chunks: Buffer[] = [];
    kit.on('data', (chunk: Buffer) => chunks.push(chunk));
    kit.text(`Sheet ${number(i)}`);
    for (const [k, to] of [(i + 1) % COUNT, (i + 37) % COUNT].entries()) {
      const action = kit.ref({ S: 'GoToR', F: new String(`${number(to)}.pdf`), D: [0, 'Fit'] });
      action.end();
      kit.annotate(20, 40 + 20 * k, 60, 15, { Subtype: 'Link', A: action, Border: [0, 0, 0] });
    }
    kit.link(20, 100, 60, 15, 'https://example.org/A-101.pdf');
    const done = new Promise((resolve) => kit.on('end', () => resolve(undefined)));
    kit.end();
    await done;
    writeFileSync(join(set, `${number(i)}.pdf`), Buffer.concat(chunks));
  }
  execFileSync('sh', ['-c', 'for f in *.pdf; do mv "$f" "2617_Pier_$f"; done'], { cwd: set });
  return set;
}

function relink(...args: string[]): { code: number; out: string; err: string } {
  const command = join(process.cwd(), 'cli', 'bin', 'folvex.mjs');
  const { status, stdout, stderr } = spawnSync(process.execPath, [command, 'relink', ...args], { encoding: 'utf8' });
  return { code: status ?? -1, out: stdout, err: stderr };
}

/** Names of files that the links of a PDF lead to, as pdf.js reads them. */
async function targets(path: string): Promise<string[]> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), verbosity: 0 }).promise;
  const annotations = (await (await document.getPage(1)).getAnnotations()) as { url?: string; unsafeUrl?: string }[];
  return annotations.flatMap(({ unsafeUrl, url }) => unsafeUrl ?? url ?? []).map((url) => url.replace(/#.*$/, ''));
}

describe('a folder of 100 linked PDFs that a script renamed', () => {
  let set: string;
  beforeAll(async () => {
    set = await renamedSet();
  });

  it('has all its links lead to files that are there, by an outside reader; nothing else is touched', async () => {
    const out = join(folder, 'repaired');
    const { code, out: said } = relink(set, '--out', out, '--prefix', '2617_Pier_');
    expect(code).toBe(0);
    expect(said).toContain('100 files, 200 links, 0 dangling');
    const there = new Set(readdirSync(out));
    expect(there.size).toBe(COUNT);
    for (const name of there) {
      const [next, far, web] = await targets(join(out, name));
      expect(there.has(next!)).toBe(true);
      expect(there.has(far!)).toBe(true);
      expect(web).toBe('https://example.org/A-101.pdf');
      const [before, after] = [readFileSync(join(set, name)), readFileSync(join(out, name))];
      expect(after.subarray(0, before.length).equals(before)).toBe(true);
    }
    for (const name of [...there].slice(0, 10)) {
      expect(execFileSync('qpdf', ['--check', join(out, name)], { encoding: 'utf8' })).toContain('No syntax');
    }
  });

  it('is renamed back with its links in one step', async () => {
    const out = join(folder, 'back');
    const source = join(folder, 'repaired');
    const { code } = relink(source, '--out', out, '--rename', '--find', '2617_Pier_', '--replace', '');
    expect(code).toBe(0);
    expect(readdirSync(out)).toContain('A-101.pdf');
    expect((await targets(join(out, 'A-101.pdf'))).slice(0, 2)).toEqual(['A-102.pdf', 'A-138.pdf']);
  });

  it('finds sheets by their numbers where no rule is given, and reports what leads nowhere', () => {
    renameSync(join(set, '2617_Pier_A-200.pdf'), join(set, 'Roof.pdf'));
    const { code, out } = relink(set, '--out', join(folder, 'guessed'));
    expect(code).toBe(1);
    expect(out).toMatch(/suggested 2617_Pier_A-101\.pdf: A-102\.pdf -> 2617_Pier_A-102\.pdf/);
    expect(out).toContain('dangling 2617_Pier_A-199.pdf: A-200.pdf');
    expect(out).toContain('2 dangling');
  });

  it('keeps its own folder: the same one is refused with a sentence', () => {
    expect(relink(set, '--out', set)).toMatchObject({ code: 2, err: expect.stringContaining('another folder') });
    expect(relink(join(folder, 'nowhere'), '--out', folder)).toMatchObject({ code: 2 });
    expect(basename(set)).toBe('set');
  });
});

it('never writes over a file that is there and differs', () => {
  const out = join(folder, 'back');
  const there = readFileSync(join(out, 'A-101.pdf'));
  cpSync(out, join(folder, 'back-again'), { recursive: true });
  cpSync(join(out, 'A-102.pdf'), join(folder, 'back-again', 'A-101.pdf'));
  const { code, err } = relink(join(folder, 'back-again'), '--out', out);
  expect([code, err]).toEqual([1, expect.stringContaining('A-101.pdf is there already and differs')]);
  expect(readFileSync(join(out, 'A-101.pdf')).equals(there)).toBe(true);
  // The same again works, and nothing half written stays.
  expect(relink(join(folder, 'back'), '--out', join(folder, 'copy')).code).toBe(0);
  expect(relink(join(folder, 'back'), '--out', join(folder, 'copy')).code).toBe(0);
  expect(readdirSync(out).filter((name) => !name.endsWith('.pdf'))).toEqual([]);
});

it('reports a file that is a PDF only by name, and copies it as it is', () => {
  const [damaged, out] = [join(folder, 'damaged'), join(folder, 'damaged-out')];
  mkdirSync(damaged);
  writeFileSync(join(damaged, 'A-101.pdf'), '%PDF-1.7 nothing');
  expect(relink(damaged, '--out', out)).toMatchObject({
    code: 1,
    err: expect.stringContaining('A-101.pdf is damaged'),
  });
  expect(readFileSync(join(out, 'A-101.pdf'), 'utf8')).toBe('%PDF-1.7 nothing');
});

it('leaves links to other kinds of files alone, and protected files as they are', async () => {
  const { linksIn, relinked } = await import('@folvex/core/foreign');
  const plain = readFileSync(join(folder, 'back', 'A-101.pdf'), 'latin1');
  const sheet = Buffer.from(plain.replaceAll('A-102.pdf', 'A-102.dwf'), 'latin1');
  expect(await linksIn(sheet, 'A-101.pdf')).toEqual({ ok: true, value: ['A-138.pdf'] });
  writeFileSync(join(folder, 'open.pdf'), plain, 'latin1');
  const locked = join(folder, 'locked.pdf');
  execFileSync('qpdf', ['--encrypt', '', 'secret', '256', '--', join(folder, 'open.pdf'), locked]);
  for (const tried of [linksIn(readFileSync(locked), 'l.pdf'), relinked(readFileSync(locked), 'l.pdf', new Map())]) {
    expect(await tried).toMatchObject({ ok: false, problem: { code: 'relink.protected' } });
  }
});

it('repairs files with cross-reference streams, and names that are not ASCII', async () => {
  const { linksIn, relinked } = await import('@folvex/core/foreign');
  const plain = readFileSync(join(folder, 'back', 'A-101.pdf'));
  const path = join(folder, 'packed.pdf');
  writeFileSync(join(folder, 'plain.pdf'), plain);
  execFileSync('qpdf', ['--object-streams=generate', join(folder, 'plain.pdf'), path]);
  const bytes = new Uint8Array(readFileSync(path));
  expect(await linksIn(bytes, 'packed.pdf')).toEqual({ ok: true, value: ['A-102.pdf', 'A-138.pdf'] });
  const made = await relinked(bytes, 'packed.pdf', new Map([['A-102.pdf', 'Größe (1).pdf']]));
  if (!made.ok) throw new Error(made.problem.sentence);
  writeFileSync(path, made.value);
  expect(execFileSync('qpdf', ['--check', path], { encoding: 'utf8' })).toContain('No syntax');
  expect(await linksIn(made.value, 'packed.pdf')).toEqual({ ok: true, value: ['Größe (1).pdf', 'A-138.pdf'] });
  expect(Buffer.from(made.value.subarray(0, bytes.length)).equals(Buffer.from(bytes))).toBe(true);
});
