import type { DrawingInfo } from '@folvex/contract';
import { unitOf } from '../../state/drawings/unit-of';

/** Ways to sort drawings. */
export type Sorting = 'arrival' | 'name' | 'state';

export const SORTINGS: readonly { value: Sorting; words: string }[] = [
  { value: 'arrival', words: 'latest first' },
  { value: 'name', words: 'by name' },
  { value: 'state', words: 'by state' },
];

/** How ready a drawing is to be published. */
export type DrawingState = 'needs a unit' | 'not on a sheet' | 'has warnings' | 'ready';

const ORDER: readonly DrawingState[] = ['needs a unit', 'not on a sheet', 'has warnings', 'ready'];

export function stateOf(drawing: DrawingInfo, uses: number): DrawingState {
  if (!unitOf(drawing)) return 'needs a unit';
  if (uses === 0) return 'not on a sheet';
  return drawing.warnings.length > 0 ? 'has warnings' : 'ready';
}

/** Drawings sorted; equal ones by name. */
export function sorted(
  drawings: readonly DrawingInfo[],
  by: Sorting,
  uses: Readonly<Record<string, number>>,
): DrawingInfo[] {
  const byName = (a: DrawingInfo, b: DrawingInfo): number =>
    a.name.localeCompare(b.name, 'en', { numeric: true, sensitivity: 'base' });
  const place = (drawing: DrawingInfo): number => ORDER.indexOf(stateOf(drawing, uses[drawing.id] ?? 0));
  const before = {
    arrival: (a: DrawingInfo, b: DrawingInfo) => (a.at === b.at ? 0 : a.at < b.at ? 1 : -1),
    name: byName,
    state: (a: DrawingInfo, b: DrawingInfo) => place(a) - place(b),
  }[by];
  return [...drawings].sort((a, b) => before(a, b) || byName(a, b));
}
