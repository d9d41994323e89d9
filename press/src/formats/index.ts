import {
  DEFAULT_DPI,
  emptyProof,
  nameOf,
  picturePixels,
  ProblemError,
  tooLarge,
  type ExtraFormat,
  type FormatOptions,
  type PaperSize,
  type Proof,
} from '@folvex/core';
import { writtenTo, type WrittenFile } from '../files/whole-file';
import type { PrintedSheet } from '../sheet/compose';
import type { SheetTask } from '../sheet/sheet-task';
import { fontsWith } from '../typefaces/own';
import { canvasImage, paintPicture, type Tones } from './paint-picture';
import { pagePictures } from './page-pictures';
import { dxf } from './dxf';
import type { FormatWriter, LinkedPicture, VerifyTask, WriteTask } from './format';
import { jpeg } from './jpeg';
import { png } from './png';
import { svg } from './svg';
import { tiff } from './tiff';

/** Every format that sheets are written in besides PDF: adding one to the list in core fails to compile until it is here. */
const WRITERS: Readonly<Record<ExtraFormat, FormatWriter>> = { dxf, svg, png, tiff, jpeg };

export interface ExtraFormatFile extends WrittenFile {
  format: ExtraFormat;
  /** The paper that it shows, mm. */
  width: number;
  height: number;
  /** Pictures that it links to, in files of their own. */
  pictures?: (LinkedPicture & WrittenFile)[];
}

/** The formats to write a sheet in, and where to. */
export interface FormatsTask extends SheetTask {
  formats: readonly ExtraFormat[];
  options?: FormatOptions;
  /** Folder that the files are written to. */
  folder: string;
}

/** Writes an inked sheet in the formats that are asked for, each a file of its own. */
export async function writeFormats(
  sheet: PrintedSheet,
  { formats, folder, options = {}, ...task }: FormatsTask,
): Promise<ExtraFormatFile[]> {
  const { dpi = DEFAULT_DPI } = options;
  const paint = painter(sheet, task, dpi);
  const files: ExtraFormatFile[] = [];
  for (const format of formats) {
    const pictures: NonNullable<ExtraFormatFile['pictures']> = [];
    const addPicture: WriteTask['addPicture'] = ({ content, ...picture }) => {
      if (pictures.some(({ name }) => name === picture.name)) return;
      pictures.push({ ...picture, ...writtenTo(folder, content) });
    };
    const bytes = await WRITERS[format].write({ sheet, task, dpi, options, paint, addPicture });
    const { widthMm: width, heightMm: height } = sheet.printed;
    const written = { format, ...writtenTo(folder, bytes), width, height };
    files.push({ ...written, ...(pictures.length > 0 && { pictures }) });
  }
  return files;
}

/** Paints a sheet on demand and keeps what it painted. */
function painter(sheet: PrintedSheet, task: WriteTask['task'], dpi: number): WriteTask['paint'] {
  const painted = new Map<Tones, Buffer>();
  const pixels = (): PaperSize => {
    const { widthMm: width, heightMm: height } = sheet.printed;
    const size = picturePixels({ width, height }, dpi);
    const sentence = tooLarge(`Sheet ${nameOf(task.sheet)}`, size);
    if (sentence) throw new ProblemError({ code: 'picture.too-large', sentence, place: {} });
    return size;
  };
  return async (tones) => {
    const size = pixels();
    let rows = painted.get(tones);
    if (!rows) {
      const pictures = await pagePictures(sheet, task.recipe, dpi, canvasImage);
      rows = await paintPicture(sheet.printed, size, pictures, tones, fontsWith(task.typefaces));
      painted.set(tones, rows);
    }
    return { rows, pixels: size };
  };
}

/** A written file of a sheet in some format, to be read again. */
export type VerifyFormatTask = Omit<VerifyTask, 'dpi' | 'options'> & {
  format: ExtraFormat;
  options?: FormatOptions;
};

/** Reads a file again and reports what is in it, and what differs from what was planned. */
export async function verifyFormat({ format, options = {}, ...file }: VerifyFormatTask): Promise<Proof> {
  const { dpi = DEFAULT_DPI } = options;
  const proof: Proof = { ...emptyProof(), pages: 1 };
  try {
    const differences = await WRITERS[format].verify({ ...file, dpi, options }, proof);
    return { ...proof, differences };
  } catch (error) {
    return { ...proof, differences: [`It cannot be read to the end (${(error as Error).message}).`] };
  }
}
