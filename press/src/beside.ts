import { performance } from 'node:perf_hooks';
import {
  DEFAULT_DPI,
  dxfOf,
  nameOf,
  picturePixels,
  ProblemError,
  svgOf,
  tooLarge,
  type BesideFormat,
  type Outcome,
  type Problem,
  type Recipe,
} from '@folvex/core';
import { encodePicture } from './encode-picture';
import { WholeFile } from './files';
import { shippedFonts } from './fonts';
import { attempt, printedSheet, type PrintedSheet, type SheetTask } from './make-sheet';
import { canvasImage, paintPicture, type Tones } from './paint-picture';
import { pagePictures, type PictureFile } from './page-pictures';

/** One sheet to write in formats beside PDF. */
export interface BesideTask extends SheetTask {
  formats: BesideFormat[];
  /** Dots to the inch of pictures; absent: 300. */
  dpi?: number;
  /** The files are put there. */
  folder: string;
}

export interface BesideFile {
  format: BesideFormat;
  /** Where the finished, synced bytes lie; the caller gives them their place. */
  temporary: string;
  hash: string;
  bytes: number;
  /** The paper that it shows, mm. */
  width: number;
  height: number;
}

export interface MadeBeside {
  files: BesideFile[];
  milliseconds: number;
  warnings: Problem[];
}

/** Writes a sheet in formats beside PDF, each a file of its own; composed once for all, painted once for all pictures alike. */
export function makeBeside(task: BesideTask): Promise<Outcome<MadeBeside>> {
  return attempt(task, async () => {
    const start = performance.now();
    const sheet = await printedSheet(task);
    const painted = new Map<Tones, Buffer>();
    const files: BesideFile[] = [];
    for (const format of task.formats)
      files.push(written(sheet, format, task, await bytesOf(sheet, format, task, painted)));
    return { files, milliseconds: performance.now() - start, warnings: sheet.warnings };
  });
}

function written({ printed }: PrintedSheet, format: BesideFormat, task: BesideTask, bytes: Uint8Array): BesideFile {
  const file = new WholeFile(task.folder);
  file.write(bytes);
  const { widthMm: width, heightMm: height } = printed;
  return { format, hash: file.sync(), temporary: file.temporary, bytes: bytes.length, width, height };
}

async function bytesOf(
  sheet: PrintedSheet,
  format: BesideFormat,
  task: BesideTask,
  painted: Map<Tones, Buffer>,
): Promise<Uint8Array> {
  const { recipe, dpi = DEFAULT_DPI } = task;
  if (format === 'dxf') return Buffer.from(dxfOf(sheet.printed, shippedFonts()));
  if (format === 'svg') return Buffer.from(await svgOfSheet(sheet, task));
  const { widthMm: width, heightMm: height } = sheet.printed;
  const pixels = picturePixels({ width, height }, dpi);
  const sentence = tooLarge(`Sheet ${nameOf(task.sheet)}`, pixels);
  if (sentence) throw new ProblemError({ code: 'picture.too-large', sentence, place: {} });
  const tones = toneOf(recipe, format);
  const rows =
    painted.get(tones) ??
    (await paintPicture(sheet.printed, pixels, await pagePictures(sheet, recipe, dpi, canvasImage), tones));
  painted.set(tones, rows);
  return encodePicture(rows, pixels, tones, { format, dpi, recipe });
}

async function svgOfSheet(
  sheet: PrintedSheet,
  { recipe, dpi = DEFAULT_DPI, sheet: told }: BesideTask,
): Promise<string> {
  const outlines = recipe.text === 'outlines' || recipe.text === 'picture';
  return svgOf(sheet.printed, {
    pictures: await pagePictures(sheet, recipe, recipe.pictureDpi ?? dpi, dataOf),
    title: `${told.number} ${told.title}`.trim(),
    ...(outlines && { outlines: shippedFonts() }),
  });
}

/** A picture as data that stand in a file itself. */
function dataOf({ type, bytes }: PictureFile): string {
  return `data:${type};base64,${Buffer.from(bytes).toString('base64')}`;
}

function toneOf({ colour, pictureTone }: Recipe, format: BesideFormat): Tones {
  if (pictureTone === 'bilevel' && format !== 'jpeg') return 'two';
  return colour === 'full' ? 'colour' : 'grey';
}
