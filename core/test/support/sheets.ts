import {
  composeSheet,
  type ComposedSheet,
  type Drawing,
  type LengthUnit,
  type ProjectFacts,
  type Sheet,
  type SheetContext,
  type View,
} from '../../src/index';
import { FONTS } from './fonts';

export const PROJECT: ProjectFacts = { number: '2617', name: 'Ferry terminal', client: '', fields: {} };

/** A window of the drawing `d`, 10 × 5 m where that is in millimetres. */
export const VIEW: View = {
  id: 'v1',
  drawing: 'd',
  space: 'model',
  window: [0, 0, 10_000, 5000],
  scale: '1:50',
  at: [100, 100],
  layersOff: [],
  label: '',
};

/** A1 with nothing on it. */
export const SHEET: Sheet = {
  id: 's',
  number: 'A-101',
  title: 'Ground floor plan',
  group: '',
  paper: { name: 'A1', orientation: 'landscape' },
  frame: 'none',
  titleBlock: undefined,
  revision: undefined,
  views: [],
};

/** A layout of a drawing taken over as a sheet. */
export function composedLayout(drawing: Drawing, layout: string, unit?: LengthUnit): ComposedSheet {
  const { paper: _, ...sheet } = SHEET;
  const from = { drawing: 'd', layout };
  return composeSheet({
    project: PROJECT,
    sheet: { ...sheet, from } as Sheet,
    fonts: FONTS,
    source: () => ({ drawing, unit }),
  });
}

/** A sheet that shows a drawing as `d`. */
export function composed(
  drawing: Drawing,
  sheet: Partial<Sheet>,
  { project = PROJECT, context = {} }: { project?: ProjectFacts; context?: SheetContext } = {},
): ComposedSheet {
  const source = (id: string) => (id === 'd' ? { drawing, unit: 'mm' as const } : undefined);
  return composeSheet({ project, sheet: { ...SHEET, ...sheet }, context, fonts: FONTS, source });
}
