import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { composeSheet, PdfDocument, ProblemError, writePart, type Drawing, type Sheet } from '@folvex/core';
import { mutated } from '../../../core/test/support/fuzz';
import { numbers } from '../../../core/test/support/numbers';
import { embedPictures, pdfTools, readDrawing, shippedFonts } from '../../src/index';
import { ownFolder } from '../support/published';

/** Damaged copies of each format; the nightly script asks for more. */
const FILES = Math.max(1, Math.floor(Number(process.env['FOLVEX_FUZZ'] ?? 2000) / 20));
const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">
<style>.a{fill:none;stroke:#345;stroke-width:.3}</style>
<defs><clipPath id="c"><circle cx="20" cy="20" r="10"/></clipPath>
<g id="d"><path class="a" d="M0 0h9a9 9 0 0 0-9-9z"/></g>
<linearGradient id="l" x2=".5" spreadMethod="reflect" gradientTransform="rotate(20)"><stop stop-color="red"/><stop offset=".7" stop-color="#12345678"/></linearGradient>
<radialGradient id="r" href="#l" gradientUnits="userSpaceOnUse" cx="50" cy="30" r="9" fx="52" spreadMethod="repeat"/>
<pattern id="p" width="7" height="5" patternUnits="userSpaceOnUse" patternTransform="skewX(10)"><circle r="2" cx="3" cy="2" fill="url(#l)"/></pattern>
<marker id="m" orient="auto" viewBox="0 0 4 4" refX="2"><path d="M0 0l4 2l-4 2z"/></marker></defs>
<ellipse cx="50" cy="30" rx="9" ry="5" fill="url(#r)" stroke="url(#l)" stroke-width="2"/><rect x="60" width="30" height="20" fill="url(#p)"/>
<path d="M60 40q9-9 18 0t18 0" transform="scale(1 .7)" fill="none" stroke="#123" stroke-width="3" stroke-dasharray="4 2 1" stroke-linecap="round" marker-mid="url(#m)" marker-end="url(#m)"/>
<g id="walls" transform="translate(4 5) rotate(10)">
<rect x="1" y="2" width="30" height="20" rx="3"/>
<use href="#d" x="10" y="20"/>
<g clip-path="url(#c)"><path d="M0 0C1 2 3 4 5 6Q7 8 9 10T20 20S30 1 40 2z" fill-rule="evenodd"/></g>
</g>
<mask id="k" x="0" width="1" maskContentUnits="objectBoundingBox"><rect width=".7" height="1" fill="url(#l)"/></mask>
<g opacity=".4" mask="url(#k)"><circle r="9" cx="20" cy="60" fill="teal" stroke="#123"/><g opacity=".5"><path d="M9 50h20v20z"/><path d="M15 50h20v20z" mask="url(#k)"/></g></g>
<text x="5" y="50" font-size="4">Quay <tspan dy="5">wall</tspan></text>
</svg>`;

/** A damaged copy of bytes: some overwritten, some cut out or doubled, the end broken off. */
function damaged(bytes: Uint8Array, seed: number): Uint8Array {
  const next = numbers(seed);
  let copy = Uint8Array.from(bytes);
  const at = (): number => Math.floor(next() * copy.length);
  for (let i = 1 + Math.floor(next() * 10); i > 0; i--) {
    const [from, length] = [at(), 1 + Math.floor(next() * 16)];
    switch (Math.floor(next() * 5)) {
      case 0:
        copy[from] = Math.floor(next() * 256);
        break;
      case 1:
        copy.fill(next() < 0.5 ? 255 : 0, from, from + 4);
        break;
      case 2:
        copy = Uint8Array.from([...copy.subarray(0, from), ...copy.subarray(from + length)]);
        break;
      case 3:
        copy = Uint8Array.from([...copy.subarray(0, from + length), ...copy.subarray(from)]);
        break;
      default:
        if (next() < 0.2) copy = copy.slice(0, Math.max(40, from));
    }
  }
  return copy;
}

/** Composes what was read and makes it ready for a PDF; anything but a problem told in words fails the test. */
async function used(drawing: Drawing): Promise<void> {
  const layout = drawing.spaces.find(({ kind }) => kind === 'layout')!.name;
  const sheet = {
    id: 's',
    number: 'S',
    title: '',
    group: '',
    views: [],
    frame: 'none',
    from: { drawing: 'd', layout },
  };
  try {
    const { page } = composeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: sheet as unknown as Sheet,
      fonts: shippedFonts(),
      source: () => ({ drawing, unit: 'mm' }),
    });
    const pictures = await embedPictures(page, [drawing]);
    const facts = { title: '', author: '', producer: '', date: '', id: '0'.repeat(32) };
    const written: string[] = [];
    const sink = { write: (bytes: Uint8Array) => void written.push(Buffer.from(bytes).toString('latin1')) };
    const document = new PdfDocument(sink, await pdfTools(), facts);
    const part = writePart(page, shippedFonts(), true, (bytes) => bytes.slice(), { pictures });
    document.addPage({ ...part, fonts: [] }, { number: '', title: '' });
    document.finish();
    // What is no number must not get into a file.
    expect(written.join('')).not.toMatch(/(NaN|Infinity)[ \]]/);
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
  }
}

describe('damaged files of other formats', () => {
  const folder = ownFolder();
  const sources = new Map<string, Uint8Array>();
  beforeAll(async () => {
    const raw = { width: 24, height: 16, channels: 4 } as const;
    const pixels = sharp(Buffer.from(Array.from({ length: 24 * 16 * 4 }, (_, i) => (i * 37) % 256)), { raw });
    sources.set('png', await pixels.clone().png().toBuffer());
    sources.set('jpg', await pixels.clone().jpeg().withMetadata({ orientation: 6 }).toBuffer());
    sources.set('tif', await pixels.clone().tiff({ compression: 'lzw' }).toBuffer());
    const document = await PDFDocument.create();
    const font = await document.embedFont(StandardFonts.Helvetica);
    document.addPage([300, 200]).drawText('Jetty', { x: 20, y: 20, font });
    const [plain, packed, locked] = ['plain.pdf', 'packed.pdf', 'locked.pdf'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
    ];
    writeFileSync(plain, await document.save({ useObjectStreams: false }));
    execFileSync('qpdf', ['--object-streams=generate', plain, packed]);
    execFileSync('qpdf', ['--encrypt', '', 'owner', '256', '--', plain, locked]);
    for (const file of [plain, packed, locked]) sources.set(file, readFileSync(file));
    sources.set('svg', new TextEncoder().encode(SVG));
  });

  it.each(['png', 'jpg', 'tif', 'plain.pdf', 'packed.pdf', 'locked.pdf', 'svg'])(
    'of %s are refused in a sentence or opened',
    async (name) => {
      const [, source] = [...sources].find(([key]) => key.endsWith(name))!;
      let [opened, refused] = [0, 0];
      for (let seed = 0; seed < FILES; seed++) {
        const bytes = name === 'svg' && seed % 2 ? mutated(SVG, seed) : damaged(source, seed);
        const read = await readDrawing(bytes, 'damaged.bin');
        if (read.ok) {
          opened++;
          await used({ ...read.drawing, key: `${name} ${seed}` });
        } else {
          refused++;
          expect(read.problem.sentence).toMatch(/^[^\n]{20,400}\.$/);
        }
      }
      expect(opened + refused).toBe(FILES);
    },
    600_000,
  );
});
