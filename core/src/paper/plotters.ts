import type { Box } from '../geometry/box';
import { findWithOwn, withOwn } from '../shipped';
import type { Margins } from './frame';
import type { PaperSize } from './sizes';

/** Margins of a plotter or printer that it cannot print on, mm, as the paper lies. */
export interface Plotter {
  id: string;
  name: string;
  margins: Margins;
}

/** Examples of the usual devices: their margins are common practice, not those of any maker. */
export const SHIPPED_PLOTTERS: readonly Plotter[] = [
  { id: 'roll', name: 'Roll plotter, 5 mm all round', margins: [5, 5, 5, 5] },
  { id: 'sheet-fed', name: 'Sheet-fed printer, 4.2 mm all round', margins: [4.2, 4.2, 4.2, 4.2] },
  { id: 'edge', name: 'Printer that reaches the edge', margins: [0, 0, 0, 0] },
];

/** All plotters of a project: the shipped ones and its own, which may take the place of a shipped one. */
export function plottersOf({ plotters }: { plotters?: Plotter[] }): Plotter[] {
  return withOwn(SHIPPED_PLOTTERS, plotters);
}

/** Margins of the chosen plotter, mm; none where none is chosen. */
export function plotterMargins(project: { plotters?: Plotter[]; plotter?: string }): Margins {
  return findWithOwn(SHIPPED_PLOTTERS, project.plotters, project.plotter)?.margins ?? [0, 0, 0, 0];
}

/** What of a paper the chosen plotter can print on, mm; all of it where none is chosen. */
export function printableArea(paper: PaperSize, project: { plotters?: Plotter[]; plotter?: string }): Box {
  const [left, bottom, right, top] = plotterMargins(project);
  return { xmin: left, ymin: bottom, xmax: paper.width - right, ymax: paper.height - top };
}
