/** A sheet of paper, in mm as it lies: width along the lower edge. */
export interface PaperSize {
  width: number;
  height: number;
}

/** How long a side of a sheet may be, mm. */
export const SHEET_SIDE_MM = { min: 10, max: 20_000 } as const;

export type Orientation = 'landscape' | 'portrait';

export function isSheetSide(value: unknown): value is number {
  return typeof value === 'number' && value >= SHEET_SIDE_MM.min && value <= SHEET_SIDE_MM.max;
}

/** A size with a name; `short` and `long` sides in mm. */
export interface NamedSize {
  name: string;
  series: 'ISO A' | 'ISO B' | 'ISO 5457 elongated' | 'ASME' | 'Architectural';
  short: number;
  long: number;
}

/** One of the names a measured size could have, and how far off it is. */
export interface SizeMatch {
  name: string;
  orientation: Orientation;
  /** Measured minus nominal, mm, along the paper's width and height. */
  differenceMm: [number, number];
}

const mm = (series: NamedSize['series'], name: string, short: number, long: number): NamedSize => ({
  name,
  series,
  short,
  long,
});
const inch = (series: NamedSize['series'], name: string, short: number, long: number): NamedSize =>
  mm(series, name, short * 25.4, long * 25.4);

/** ISO 216, ISO 5457 (elongated), ASME Y14.1 and the architectural series (common practice in the US). */
export const NAMED_SIZES: readonly NamedSize[] = [
  mm('ISO A', 'A0', 841, 1189),
  mm('ISO A', 'A1', 594, 841),
  mm('ISO A', 'A2', 420, 594),
  mm('ISO A', 'A3', 297, 420),
  mm('ISO A', 'A4', 210, 297),
  mm('ISO B', 'B0', 1000, 1414),
  mm('ISO B', 'B1', 707, 1000),
  mm('ISO B', 'B2', 500, 707),
  mm('ISO B', 'B3', 353, 500),
  mm('ISO B', 'B4', 250, 353),
  mm('ISO 5457 elongated', 'A3x3', 420, 891),
  mm('ISO 5457 elongated', 'A3x4', 420, 1189),
  mm('ISO 5457 elongated', 'A4x3', 297, 630),
  mm('ISO 5457 elongated', 'A4x4', 297, 841),
  mm('ISO 5457 elongated', 'A4x5', 297, 1051),
  inch('ASME', 'A (ASME)', 8.5, 11),
  inch('ASME', 'B (ASME)', 11, 17),
  inch('ASME', 'C (ASME)', 17, 22),
  inch('ASME', 'D (ASME)', 22, 34),
  inch('ASME', 'E (ASME)', 34, 44),
  inch('Architectural', 'Arch A', 9, 12),
  inch('Architectural', 'Arch B', 12, 18),
  inch('Architectural', 'Arch C', 18, 24),
  inch('Architectural', 'Arch D', 24, 36),
  inch('Architectural', 'Arch E1', 30, 42),
  inch('Architectural', 'Arch E', 36, 48),
  inch('Architectural', 'Arch E2', 26, 38),
  inch('Architectural', 'Arch E3', 27, 39),
];

/** A paper of the office's own, to be chosen by name; mm. */
export interface OwnPaper {
  name: string;
  short: number;
  long: number;
}

export interface NamedPaper {
  name: string;
  orientation: Orientation;
}

/** Paper by name and orientation, or by its own size in mm. */
export type PaperChoice = NamedPaper | { size: [width: number, height: number] };

/** Every name that papers are chosen by: a project's own first. */
export function paperNames(own: readonly OwnPaper[] = []): string[] {
  return [...own, ...NAMED_SIZES].map(({ name }) => name);
}

/** The paper that is chosen; undefined for an unknown name. */
export function paperOfChoice(choice: PaperChoice, own?: readonly OwnPaper[]): PaperSize | undefined {
  return 'size' in choice
    ? { width: choice.size[0], height: choice.size[1] }
    : paperOf(choice.name, choice.orientation, own);
}

/** The paper of a named size, turned as asked; undefined for an unknown name. Names ignore case, own ones come first. */
export function paperOf(
  name: string,
  orientation: Orientation = 'landscape',
  own: readonly OwnPaper[] = [],
): PaperSize | undefined {
  const found = [...own, ...NAMED_SIZES].find((size) => size.name.toLowerCase() === name.trim().toLowerCase());
  if (!found) return undefined;
  return orientation === 'landscape'
    ? { width: found.long, height: found.short }
    : { width: found.short, height: found.long };
}

/** Every named size within `toleranceMm` of a measured one on both sides, nearest first. */
export function namesOf(paper: PaperSize, toleranceMm = 2): SizeMatch[] {
  const orientation: Orientation = paper.width >= paper.height ? 'landscape' : 'portrait';
  return NAMED_SIZES.map(({ name, short, long }) => {
    const [width, height] = orientation === 'landscape' ? [long, short] : [short, long];
    const differenceMm: [number, number] = [paper.width - width, paper.height - height];
    return { name, orientation, differenceMm };
  })
    .filter((match) => match.differenceMm.every((d) => Math.abs(d) <= toleranceMm))
    .sort((a, b) => farthest(a) - farthest(b));
}

/** The name to show for a paper: its nearest named size, else its millimetres. */
export function describePaper(paper: PaperSize, own: readonly OwnPaper[] = []): string {
  const [short, long] = [Math.min(paper.width, paper.height), Math.max(paper.width, paper.height)];
  const ours = own.find((one) => Math.abs(one.short - short) < 0.5 && Math.abs(one.long - long) < 0.5);
  return ours?.name ?? namesOf(paper, 0.5)[0]?.name ?? `${round(paper.width)} × ${round(paper.height)}`;
}

function farthest(match: SizeMatch): number {
  return Math.max(...match.differenceMm.map(Math.abs));
}

function round(value: number): number {
  return Math.round(value * 10) / 10;
}
