import type { FormatOptions, PaperSize, Proof } from '@folvex/core';
import type { PrintedSheet } from '../sheet/compose';
import type { Tones } from './paint-picture';
import type { SheetTask } from '../sheet/sheet-task';

/** A picture in a file of its own, in the same folder as the file that links to it. */
export interface LinkedPicture {
  /** Of the file; names say what is in it, so that equal ones are the same file. */
  name: string;
  format: 'png' | 'jpeg';
  /** Pixels. */
  width: number;
  height: number;
}

/** A sheet to write in one format. */
export interface WriteTask {
  sheet: PrintedSheet;
  task: SheetTask;
  /** Dots per inch of pictures. */
  dpi: number;
  options: FormatOptions;
  /** Writes a picture that the file links to, into the same folder. */
  addPicture(picture: LinkedPicture & { content: Uint8Array }): void;
  /** The sheet as rows of pixels; painted once for all formats that want the same tones. */
  paint(tones: Tones): Promise<{ rows: Buffer; pixels: PaperSize }>;
}

/** A written file to read again, with what it should show. */
export interface VerifyTask {
  path: string;
  /** The paper, mm. */
  width: number;
  height: number;
  /** Dots per inch of pictures. */
  dpi: number;
  options: FormatOptions;
  /** Of a picture that is not one of a whole sheet: its pixels. */
  pixels?: PaperSize;
}

/** How sheets are written in a format other than PDF, and how such a file is read again by independent means. */
export interface FormatWriter {
  write(task: WriteTask): Promise<Uint8Array>;
  /** What differs from what should be there, in sentences; what it finds is counted in `proof`. */
  verify(task: VerifyTask, proof: Proof): Promise<string[]>;
}
