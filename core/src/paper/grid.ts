import { height, width, type Box } from '../geometry/box';
import type { PaperSize } from './sizes';

/** Marks around the frame: those of ISO 5457, and where the sheet is folded. */
export type FrameMark = 'centring' | 'grid' | 'trimming' | 'folding';

export const FRAME_MARKS: readonly FrameMark[] = ['centring', 'grid', 'trimming', 'folding'];

/** ISO 5457, 4: length of a field of the grid reference, and how far centring marks reach into the frame, mm (from memory). */
export const FIELD_MM = 50;
export const CENTRING_INSIDE_MM = 5;

/** A field of the grid reference along one edge of the frame, mm from the paper's left or lower edge. */
export interface GridField {
  name: string;
  from: number;
  to: number;
}

/** I and O are left out, as they are taken for figures. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ';

/**
 * The fields of a grid reference: numerals along the edges from the left, letters down the sides from the top. Fields are
 * 50 mm long from the middle of the paper outwards; what is left over goes to, or makes, those at the corners (ISO 5457).
 */
export function gridFields(paper: PaperSize, frame: Box): { across: GridField[]; down: GridField[] } {
  const across = fieldsAlong(frame.xmin, frame.xmax, paper.width / 2, width(frame));
  const up = fieldsAlong(frame.ymin, frame.ymax, paper.height / 2, height(frame));
  return {
    across: across.map(([from, to], i) => ({ name: String(i + 1), from, to })),
    down: up.reverse().map(([from, to], i) => ({ name: lettersOf(i), from, to })),
  };
}

function fieldsAlong(low: number, high: number, middle: number, length: number): [number, number][] {
  const half = Math.max(1, Math.round(length / 2 / FIELD_MM));
  const lines = Array.from({ length: 2 * half - 1 }, (_, i) => middle + (i - half + 1) * FIELD_MM);
  const edges = [low, ...lines.filter((line) => line > low && line < high), high];
  return edges.slice(1).map((to, i) => [edges[i]!, to]);
}

/** A … Z without I and O, then AA, AB …: ISO 5457 doubles letters on very long papers. */
function lettersOf(index: number): string {
  const [rest, letter] = [Math.floor(index / LETTERS.length), LETTERS[index % LETTERS.length]!];
  return rest > 0 ? LETTERS[rest - 1]! + letter : letter;
}
