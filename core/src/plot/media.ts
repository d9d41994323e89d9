import { paperOf, type OwnPaper, type PaperSize } from '../paper/sizes';

/** Paper that a plotter holds, mm: a roll, or sheets of one size, as they lie. */
export type Medium = { kind: 'roll'; width: number } | ({ kind: 'sheet'; name: string } & PaperSize);

/** What a plotter tells of its paper. */
export interface PlotterPaper {
  media: Medium[];
  /** The widest unprintable margin, mm; 0 where there is none, or the plotter does not say. */
  marginMm: number;
}

/** Widths of the usual rolls, mm: A1 and A0 with and without an edge to trim, and 24, 36 and 42 in (common practice). */
export const USUAL_ROLLS_MM = [594, 610, 841, 914, 1067] as const;

/** How wide a roll may be, mm. */
export const ROLL_WIDTH_MM = { min: 100, max: 2000 } as const;

/** What a list of media names. */
export interface MediaList {
  media: Medium[];
  /** Entries that are neither the width of a roll nor the name of a paper. */
  unknown: string[];
}

/** Reads a list of media with commas between: widths of rolls in mm, and names of sheets, such as `610, 914, A3`. */
export function mediaIn(list: string, own: readonly OwnPaper[] = []): MediaList {
  const found: MediaList = { media: [], unknown: [] };
  for (const entry of list.split(/[,;\n]/).map((text) => text.trim())) {
    if (entry === '') continue;
    const medium = mediumNamed(entry, own);
    if (medium) found.media.push(medium);
    else found.unknown.push(entry);
  }
  return found;
}

function mediumNamed(entry: string, own: readonly OwnPaper[]): Medium | undefined {
  const width = /^(\d+(?:\.\d+)?)\s*(?:mm)?$/i.exec(entry)?.[1];
  if (width !== undefined) {
    const isRoll = Number(width) >= ROLL_WIDTH_MM.min && Number(width) <= ROLL_WIDTH_MM.max;
    return isRoll ? { kind: 'roll', width: Number(width) } : undefined;
  }
  const paper = paperOf(entry, 'portrait', own);
  return paper && { kind: 'sheet', name: entry.toUpperCase(), ...paper };
}

/** A medium as people call it: `roll 610 mm`, `A3`. */
export function mediumInWords(medium: Medium): string {
  return medium.kind === 'roll' ? `roll ${medium.width} mm` : medium.name;
}
