import { degrees, PDFDocument, rgb } from '@cantoo/pdf-lib';
import * as fontkit from 'fontkit';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { kindOf } from '@folvex/core';
import { openPdf, readPdf, withoutProtection } from '@folvex/core/foreign';
import { fontFile } from '../../src/index';
import { difference, drawingOf, ownFolder, publish, rastered, tool } from '../support/published';

const folder = ownFolder();
const path = (name: string): string => join(folder, name);

/** A set as another office might send it: turned and cropped pages, a scaled unit, content in pieces. */
async function consultantsSet(): Promise<string> {
  const document = await PDFDocument.create();
  // Readers put whatever the machine has in the place of typefaces that are not in the file.
  document.registerFontkit(fontkit as never);
  const font = await document.embedFont(readFileSync(fontFile('sans')));
  for (const turn of [0, 90, 180, 270]) {
    const page = document.addPage([842, 595]);
    page.drawRectangle({ x: 40, y: 60, width: 300, height: 120, borderColor: rgb(0.8, 0.1, 0.1), borderWidth: 3 });
    page.drawCircle({ x: 600, y: 400, size: 80, color: rgb(0.2, 0.4, 0.7) });
    page.drawText(`Ramp turned by ${turn}`, { x: 80, y: 300, size: 40, font });
    page.setRotation(degrees(turn));
  }
  const cropped = document.addPage([842, 595]);
  cropped.drawText('Crop me', { x: 420, y: 320, size: 40, font });
  cropped.setCropBox(400, 300, 200, 100);
  const file = path('set.pdf');
  writeFileSync(file, await document.save({ useObjectStreams: false }));
  return file;
}

async function republished(file: string, name: string): Promise<string> {
  const drawing = await drawingOf(new Uint8Array(readFileSync(file)), name);
  const layouts = drawing.spaces.filter(({ kind }) => kind === 'layout');
  return publish(
    path(`${name}-again.pdf`),
    layouts.map(({ name: layout }) => ({ drawing, layout })),
  );
}

describe('pages of a PDF of others', () => {
  let set = '';
  beforeAll(async () => {
    set = await consultantsSet();
  });

  it('look as poppler draws the original, turned and cropped ones too', async () => {
    const again = await republished(set, 'set.pdf');
    expect(tool('qpdf', '--check', again)).toContain('No syntax or stream encoding errors found');
    for (let page = 1; page <= 5; page++) {
      // With -cropbox poppler shows the original as readers do.
      tool('pdftoppm', '-png', '-cropbox', '-r', '72', '-f', `${page}`, '-l', `${page}`, '-singlefile', set, path('o'));
      const { mean, strong, inked } = await difference(path('o.png'), rastered(again, 72, page));
      expect(inked).toBeGreaterThan(0.01);
      expect([page, mean < 4, strong < 0.0005]).toEqual([page, true, true]);
    }
  });

  it('keep their paper and their text', async () => {
    const again = await republished(set, 'set.pdf');
    const sizes = tool('pdfinfo', '-f', '1', '-l', '5', again).matchAll(/size: +([\d.]+) x ([\d.]+) pts/g);
    expect([...sizes].map(([, w, h]) => [Math.round(Number(w)), Math.round(Number(h))])).toEqual([
      [842, 595],
      [595, 842],
      [842, 595],
      [595, 842],
      [200, 100],
    ]);
    const text = tool('pdftotext', again, '-');
    for (const turn of [0, 90, 180, 270]) expect(text).toContain(`Ramp turned by ${turn}`);
  });

  it('of one file share fonts: nothing is in the file twice', async () => {
    const again = await republished(set, 'set.pdf');
    const once = tool('pdffonts', '-l', '1', again).trim().split('\n').slice(2);
    const drawing = await drawingOf(new Uint8Array(readFileSync(set)), 'set.pdf');
    const twice = { drawing, layout: 'Page 1' };
    const doubled = await publish(path('doubled.pdf'), [twice, twice]);
    expect(once).toHaveLength(1);
    const forms = (file: string): number => readFileSync(file, 'latin1').split('/Subtype /Form').length - 1;
    expect(forms(doubled)).toBe(1);
  });

  it.each([
    ['object streams', ['--object-streams=generate']],
    ['a linearized file', ['--linearize']],
    ['content in many pieces', ['--split-pages=0', '--coalesce-contents']],
  ])('come through from %s', async (_what, options) => {
    const file = path('variant.pdf');
    tool('qpdf', ...options.filter((option) => !option.startsWith('--split')), set, file);
    const again = await republished(file, 'variant.pdf');
    expect(tool('pdftotext', again, '-')).toContain('Ramp turned by 270');
  });

  it('keep the layers they came with, those switched off stay off', async () => {
    const source = path('layers.pdf');
    writeFileSync(source, layeredPdf());
    expect(tool('qpdf', '--check', source)).toContain('No syntax');
    const again = await republished(source, 'layers.pdf');
    const objects = tool('qpdf', '--qdf', '--object-streams=disable', again, '-');
    expect(objects).toContain('/Name (Existing)');
    expect(objects).toContain('/Name (Demolition)');
    // Read by MuPDF: a layer that is off is not drawn.
    const text = tool('mutool', 'draw', '-F', 'txt', again);
    expect(text).toContain('stays');
    expect(text).not.toContain('goes');
  });

  it('that are protected ask for the password, and open with it', async () => {
    const locked = path('locked.pdf');
    tool('qpdf', '--encrypt', 'kelp', 'owner', '256', '--', set, locked);
    const bytes = new Uint8Array(readFileSync(locked));
    expect(await readPdf(bytes, 'locked.pdf')).toMatchObject({ ok: false, problem: { code: 'pdf.password' } });
    expect(await readPdf(bytes, 'locked.pdf', 'wrong')).toMatchObject({
      ok: false,
      problem: { sentence: expect.stringContaining('does not open') as string },
    });
    const opened = await openPdf(bytes, 'locked.pdf', 'kelp');
    if (!opened.ok) throw new Error(opened.problem.sentence);
    const plain = path('unlocked.pdf');
    writeFileSync(plain, await withoutProtection(opened.value.document));
    expect(await readPdf(new Uint8Array(readFileSync(plain)), 'unlocked.pdf')).toMatchObject({ ok: true });
    expect(tool('pdfinfo', plain)).toMatch(/Encrypted: +no/);
    expect(tool('pdftotext', plain, '-')).toContain('Ramp turned by 90');
  });

  it.each(['40', '128', '256'])('with %s-bit owner protection only need none', async (bits) => {
    const locked = path(`owner-${bits}.pdf`);
    const weak = bits === '256' ? [] : ['--allow-weak-crypto'];
    tool('qpdf', ...weak, '--encrypt', '', 'owner', bits, '--', set, locked);
    const again = await republished(locked, `owner-${bits}.pdf`);
    expect(tool('pdftotext', again, '-')).toContain('Ramp turned by 90');
  });

  it('that are damaged are refused in one sentence', async () => {
    const bytes = new TextEncoder().encode('%PDF-1.7\nnothing of the kind');
    expect(kindOf(bytes)).toBe('pdf');
    expect(await readPdf(bytes, 'odd.pdf')).toMatchObject({ ok: false, problem: { place: { file: 'odd.pdf' } } });
  });
});

/** A page with two layers, one of them off, written by hand after ISO 32000-2, 8.11. */
function layeredPdf(): string {
  const content = '/OC /A BDC BT /F 24 Tf 20 60 Td (stays) Tj ET EMC /OC /B BDC BT /F 24 Tf 20 20 Td (goes) Tj ET EMC';
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [5 0 R 6 0 R] /D << /OFF [6 0 R] /Order [5 0 R 6 0 R] >> >> >>',
    '<< /Type /Pages /Count 1 /Kids [3 0 R] /MediaBox [0 0 200 100] /Resources << /Font << /F 7 0 R >> /Properties << /A 5 0 R /B 6 0 R >> >> >>',
    '<< /Type /Page /Parent 2 0 R /Contents 4 0 R >>',
    `<< /Length ${content.length} >>\nstream\n${content}\nendstream`,
    '<< /Type /OCG /Name (Existing) >>',
    '<< /Type /OCG /Name (Demolition) >>',
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let text = '%PDF-1.7\n';
  const offsets = objects.map((body, i) => {
    const at = text.length;
    text += `${i + 1} 0 obj\n${body}\nendobj\n`;
    return at;
  });
  const start = text.length;
  text += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  text += offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  return `${text}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
}
