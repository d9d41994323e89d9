import type { PaperSize } from './sizes';

/**
 * DIN 824 A (from memory): folded to A4, 210 × 297 mm. The first field is 210 mm wide with its filing margin of 20 mm,
 * those behind it 190 mm, so that the margin stays free.
 */
const [FIRST_MM, FIELD_MM, HEIGHT_MM, FILING_MM] = [210, 190, 297, 20];
/** So little is shared out among the fields instead of making fields of its own. */
const LITTLE_MM = 20;

/** Where a paper is folded, mm from its left and its lower edge; nowhere where it is not larger than A4. */
export function foldLines(paper: PaperSize): { across: number[]; up: number[] } {
  return { across: foldsAcross(paper.width), up: foldsUp(paper.height) };
}

/**
 * Fields are counted from the right, where the title block must come to lie on top: that takes an even number of them
 * behind the first. What is left between them and the first is folded in its middle.
 */
function foldsAcross(width: number): number[] {
  if (width <= FIRST_MM) return [];
  if (width <= 2 * FIRST_MM) {
    // No room for two whole fields: of A3 they are 125, 105 and 190 mm.
    const last = width - FIELD_MM;
    return last > FILING_MM ? [(last + FILING_MM) / 2, last] : [last];
  }
  const fields = 2 * Math.floor((width - FIRST_MM) / FIELD_MM / 2);
  const left = width - FIRST_MM - fields * FIELD_MM;
  // Of A2 the fields are 192 mm.
  const field = left < LITTLE_MM ? FIELD_MM + left / fields : FIELD_MM;
  const middle = left < LITTLE_MM ? [FIRST_MM] : [FIRST_MM, FIRST_MM + left / 2, FIRST_MM + left];
  const behind = Array.from({ length: Math.max(0, fields - 1) }, (_, i) => middle.at(-1)! + (i + 1) * field);
  return fields === 0 ? middle.slice(0, 2) : [...middle, ...behind];
}

function foldsUp(height: number): number[] {
  const folds: number[] = [];
  for (let at = HEIGHT_MM; at < height; at += HEIGHT_MM) folds.push(at);
  return folds;
}
