import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { composeSheet, contextOf, paperOf, readDxf, readJobFile, type JobFile } from '@folvex/core';
import { shippedFonts } from '@folvex/press';
import { DEMO, folvex, ownFolder, smallJob, tool, WALL_DXF } from './command';

const MM_PER_POINT = 25.4 / 72;

/** The demo published, looked at with readers that share nothing with the project: poppler, qpdf and MuPDF. */
describe('the published demo', () => {
  const folder = ownFolder();
  const [together, again, apart] = ['together', 'again', 'apart'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  const read = readJobFile(readFileSync(DEMO, 'utf8'));
  const job = (read.ok ? read.job : undefined) as JobFile;
  const permit = job.packages.find(({ id }) => id === 'permit')!;
  const sheets = permit.order.map((id) => job.sheets.find((sheet) => sheet.id === id)!);
  let combined = '';
  let separate: string[] = [];

  beforeAll(() => {
    for (const out of [together, again])
      expect(folvex('publish', DEMO, '--package', 'permit', '--out', out).code).toBe(0);
    const separateJob = {
      ...(JSON.parse(readFileSync(DEMO, 'utf8')) as object),
      packages: [{ ...permit, bundling: 'sheet', names: { file: '[page > pad 2]' } }],
    };
    const path = join(folder, 'separate.json');
    writeFileSync(path, JSON.stringify(separateJob).replaceAll('tern-quay/', `${join(DEMO, '..', 'tern-quay')}/`));
    expect(folvex('publish', path, '--out', apart).code).toBe(0);
    combined = join(together, readdirSync(together)[0]!);
    separate = readdirSync(apart)
      .sort()
      .map((name) => join(apart, name));
  });

  it('is clean to qpdf', () => {
    for (const file of [combined, ...separate]) {
      expect(tool('qpdf', '--check', file)).toContain('No syntax or stream encoding errors found');
    }
  });

  it('is drawn by poppler and MuPDF without a complaint', () => {
    for (const file of [combined, ...separate]) {
      const poppler = spawnSync('pdftoppm', ['-r', '20', '-png', file, join(folder, 'quiet')], { encoding: 'utf8' });
      expect([poppler.status, poppler.stderr]).toEqual([0, '']);
      const mupdf = spawnSync('mutool', ['draw', '-q', '-r', '20', '-o', join(folder, 'quiet-%d.png'), file], {
        encoding: 'utf8',
      });
      expect(mupdf.status).toBe(0);
      // Debian's MuPDF says of every file that it was built without colour management.
      expect(mupdf.stderr.replace('warning: ICC support is not available\n', '')).toBe('');
    }
  });

  it('takes at most 0.85 of what the same page takes through cairo', () => {
    for (const file of separate) {
      tool('pdftocairo', '-svg', file, join(folder, 'page.svg'));
      tool('rsvg-convert', '-f', 'pdf', '-o', join(folder, 'cairo.pdf'), join(folder, 'page.svg'));
      expect(statSync(file).size / statSync(join(folder, 'cairo.pdf')).size).toBeLessThan(0.85);
      // With its texts as text, not as outlines: cairo's own writer leaves layers, links, metadata and outline out.
      tool('pdftocairo', '-pdf', file, join(folder, 'plain.pdf'));
      expect(statSync(file).size / statSync(join(folder, 'plain.pdf')).size).toBeLessThan(1);
    }
  });

  it('has the paper of each sheet to 0.1 mm', () => {
    const info = tool('pdfinfo', '-f', '1', '-l', String(sheets.length), combined);
    const sizes = [...info.matchAll(/Page +\d+ size: +([\d.]+) x ([\d.]+) pts/g)];
    expect(sizes).toHaveLength(sheets.length);
    sizes.forEach(([, width, height], i) => {
      const { paper } = sheets[i]!;
      const wanted = paper && 'name' in paper ? paperOf(paper.name, paper.orientation)! : undefined;
      expect(Math.abs(Number(width) * MM_PER_POINT - wanted!.width)).toBeLessThan(0.1);
      expect(Math.abs(Number(height) * MM_PER_POINT - wanted!.height)).toBeLessThan(0.1);
    });
  });

  it('embeds every font, with Unicode', () => {
    const fonts = tool('pdffonts', combined).trim().split('\n').slice(2);
    expect(fonts.length).toBeGreaterThanOrEqual(2);
    for (const font of fonts) expect(font).toMatch(/CID TrueType\s+Identity-H\s+yes yes yes/);
  });

  it('gives every visible text to pdftotext', () => {
    const bare = (text: string): string => text.replace(/\s+/g, '');
    sheets.forEach((sheet, i) => {
      const text = bare(tool('pdftotext', '-raw', '-f', String(i + 1), '-l', String(i + 1), combined, '-'));
      const { page } = composeSheet({
        project: job.project,
        sheet,
        context: contextOf(job.project, sheet, job.sheets),
        fonts: shippedFonts(),
        source: (id) => {
          const file = job.drawings.find((drawing) => drawing.id === id)!.file;
          const drawing = readDxf(new Uint8Array(readFileSync(join(DEMO, '..', file))), file);
          return drawing.ok ? { drawing: drawing.drawing, unit: drawing.drawing.unit! } : undefined;
        },
      });
      expect(page.texts.length).toBeGreaterThan(20);
      const missing = page.texts.map((mark) => bare(mark.text)).filter((mark) => !text.includes(mark));
      expect(missing).toEqual([]);
    });
  });

  it('has pictures made next to it by several threads at once, the same bytes each time', () => {
    const pack = { ...permit, extraFormats: { formats: ['png', 'jpeg'], dpi: 150 } };
    const path = join(folder, 'pictures.json');
    const told = { ...(JSON.parse(readFileSync(DEMO, 'utf8')) as object), packages: [pack] };
    writeFileSync(path, JSON.stringify(told).replaceAll('tern-quay/', `${join(DEMO, '..', 'tern-quay')}/`));
    const written = ['first', 'second'].map((name) => {
      const out = join(folder, name);
      expect(folvex('publish', path, '--out', out, '--workers', '2').code).toBe(0);
      const pictures = readdirSync(out).filter((file) => /\.(png|jpg)$/.test(file));
      return pictures.sort().map((file) => [file, readFileSync(join(out, file)).toString('base64')]);
    });
    expect(written[0]).toHaveLength(2 * sheets.length);
    // Compared as a whole: nobody wants to see what differs.
    expect(JSON.stringify(written[0]) === JSON.stringify(written[1])).toBe(true);
  });

  it('is the same, byte for byte, when it is published again', () => {
    const [name] = readdirSync(together);
    expect(readFileSync(join(again, name!)).equals(readFileSync(combined))).toBe(true);
  });

  it('holds the same pages in one file and in separate ones', () => {
    separate.forEach((file, i) => {
      expect(tool('mutool', 'show', '-b', file, 'pages/1/Contents')).toBe(
        tool('mutool', 'show', '-b', combined, `pages/${i + 1}/Contents`),
      );
    });
  });

  it('carries the number of each sheet as page label and outline', () => {
    const outline = tool('mutool', 'show', combined, 'outline');
    for (const { number, title } of sheets) expect(outline).toContain(`${number}  ${title}`);
    const labels = tool('qpdf', '--json', '--json-key=pagelabels', combined);
    expect((JSON.parse(labels) as { pagelabels: unknown[] }).pagelabels).toHaveLength(sheets.length);
    expect(tool('pdfinfo', combined)).toMatch(/Title:\s+Tern Quay Ferry Terminal - Permit set/);
  });
});

describe('a wall of 12 345 mm at 1:50', () => {
  const folder = ownFolder();

  it('measures 246.9 mm in the content stream, and its weight 0.5 mm', () => {
    const out = join(folder, 'out');
    expect(folvex('publish', smallJob(folder, WALL_DXF), '--out', out).code).toBe(0);
    const plain = tool('qpdf', '--qdf', '--object-streams=disable', join(out, 'Set.pdf'), '-');
    const [, scale] = /^([\d.]+) 0 0 \1 0 0 cm$/m.exec(plain)!;
    const mmPerUnit = Number(scale) * MM_PER_POINT;
    const lines = [...plain.matchAll(/^(\d+) (\d+) m\n(\d+) \2 l$/gm)].map(([, x0, , x1]) => Number(x1) - Number(x0));
    const faces = lines.filter((length) => Math.abs(length * mmPerUnit - 246.9) <= 0.05);
    expect(faces).toHaveLength(2);
    expect(plain).toMatch(/^50 w$/m);
    // The unit of the stream is a hundredth of a millimetre (ISO 32000-2, 8.3.2.3: a point is 1/72 inch).
    expect(mmPerUnit).toBeCloseTo(0.01, 7);
  });
});
