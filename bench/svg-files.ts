import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { composeSheet, sheetFromLayout, type Drawing } from '@folvex/core';
import { embedPictures, pagePdf, readDrawing, shippedFonts, today } from '@folvex/press';

/** The longer side of the pictures that are compared, pixels. */
const SIDE = 256;
/** Pixels differ where a channel differs by more than an eighth of its range. */
const DIFFERS = 32;
/** Share of pixels that may differ. */
const WITHIN = 0.01;

interface Compared {
  file: string;
  /** Share of pixels that differ. */
  share: number;
  warnings: readonly string[];
}

/**
 * Compares SVG files, published and rendered by MuPDF, with what librsvg draws of them, and prints how many come out within
 * 1 % of the pixels, and which of the others carry no warning.
 */
export async function compareSvgFiles(work: string, folders: readonly string[], most: number): Promise<void> {
  const compared: Compared[] = [];
  let refused = 0;
  for (const file of spread(folders.flatMap(svgFilesIn), most)) {
    const one = await compareFile(work, file).catch((error: unknown) => {
      console.log(`${file}: ${error instanceof Error ? error.message.split('\n')[0] : String(error)}`);
    });
    if (one) compared.push(one);
    else refused++;
  }
  const far = compared.filter(({ share }) => share > WITHIN).sort((a, b) => b.share - a.share);
  const silent = far.filter(({ warnings }) => warnings.length === 0);
  for (const { file, share, warnings } of far) {
    console.log(`${(share * 100).toFixed(1).padStart(5)} %  ${file}  ${warnings.join(' ') || 'no warning'}`);
  }
  const near = compared.length - far.length;
  console.log(
    `\n${compared.length} files compared, ${refused} not. Within 1 %: ${near} (${((100 * near) / compared.length).toFixed(1)} %). ` +
      `Of the other ${far.length}, ${silent.length} carry no warning.`,
  );
}

/** The SVG files in a folder and those in it, in the order of their paths. */
function svgFilesIn(folder: string): string[] {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name.endsWith('.svg'))
    .map(({ parentPath, name }) => join(parentPath, name))
    .sort();
}

/** So many of a list, from all over it. */
function spread<T>(list: readonly T[], most: number): T[] {
  const step = Math.max(1, list.length / most);
  return Array.from({ length: Math.min(most, list.length) }, (_, i) => list[Math.floor(i * step)]!);
}

/**
 * How far an SVG file, published and rendered by MuPDF, is from what librsvg draws of it; undefined where one of the two
 * refuses it. MuPDF draws thin lines as thin as they are, poppler a whole pixel wide.
 */
async function compareFile(work: string, file: string): Promise<Compared | undefined> {
  const [wanted, ours] = [join(work, 'wanted.png'), join(work, 'ours.png')];
  const read = await readDrawing(new Uint8Array(readFileSync(file)), 'file.svg');
  const paper = read.ok ? read.drawing.spaces[1]?.plot?.paper : undefined;
  if (!read.ok || !paper) return undefined;
  const dpi = (SIDE / Math.max(paper.width, paper.height)) * 25.4;
  try {
    execFileSync('rsvg-convert', ['-z', `${dpi / 96}`, '-o', wanted, file], { stdio: 'pipe' });
  } catch {
    return undefined;
  }
  const drawing = { ...read.drawing, key: 'file.svg' };
  const pdf = join(work, 'ours.pdf');
  writeFileSync(pdf, await published(drawing));
  execFileSync('mutool', ['draw', '-q', '-r', `${dpi}`, '-o', ours, pdf], { stdio: 'pipe' });
  const warnings = [...new Set(read.warnings.map(({ sentence }) => sentence))];
  return { file, share: await shareOfDifferent(wanted, ours), warnings };
}

/** A PDF of the page of an SVG. */
async function published(drawing: Drawing): Promise<Uint8Array> {
  const { page } = composeSheet({
    project: { number: '', name: '', client: '', fields: {} },
    sheet: sheetFromLayout('s', { drawing: 'd', name: 'Page 1' }, today()),
    fonts: shippedFonts(),
    source: () => ({ drawing, unit: drawing.unit }),
  });
  return pagePdf(page, '', { pictures: await embedPictures(page, [drawing]) });
}

/** Share of the pixels that differ on white, after a slight blur that forgives how edges are smoothed. */
async function shareOfDifferent(one: string, other: string): Promise<number> {
  const [a, b] = [await pixelsOf(one), await pixelsOf(other)];
  const [width, height] = [Math.min(a.width, b.width), Math.min(a.height, b.height)];
  if (Math.abs(a.width - b.width) > 1 || Math.abs(a.height - b.height) > 1) return 1;
  let differ = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [p, q] = [3 * (y * a.width + x), 3 * (y * b.width + x)];
      const apart = Math.max(...[0, 1, 2].map((channel) => Math.abs(a.data[p + channel]! - b.data[q + channel]!)));
      if (apart > DIFFERS) differ++;
    }
  }
  return differ / (width * height);
}

async function pixelsOf(file: string): Promise<{ data: Buffer; width: number; height: number }> {
  const { data, info } = await sharp(readFileSync(file))
    .flatten({ background: '#fff' })
    .toColourspace('srgb')
    .blur(1.2)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}
