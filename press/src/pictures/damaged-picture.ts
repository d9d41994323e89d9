import { ProblemError, type PictureSource } from '@folvex/core';

/** The warning about a picture whose header could be read, but not its pixels. */
export function damagedPicture({ kind, page }: PictureSource, name: string): ProblemError {
  const what = kind === 'pdf' || kind === 'tiff' ? `Page ${page}` : 'A picture';
  const sentence = `${what} of ${name} is damaged and cannot be placed; ask for the file again, or remove the view from the sheet.`;
  return new ProblemError({ code: 'picture.damaged', sentence, place: { file: name } });
}
