import type { PaperSize } from '../paper/sizes';
import { parseLayoutName } from './layout-name';
import type { Sheet } from './model';
import type { LayoutFields } from './title/layout-fields';

/** A layout to be taken over as a sheet. */
export interface LayoutToTake {
  /** Id of its drawing. */
  drawing: string;
  name: string;
  paper?: PaperSize;
  /** What its title block says. */
  fields?: LayoutFields;
}

/**
 * A sheet that takes a layout over as it is; what its title block does not say comes from the layout's name. `today`
 * (YYYY-MM-DD) dates a revision without a date.
 */
export function sheetFromLayout(id: string, { drawing, name, paper, fields = {} }: LayoutToTake, today: string): Sheet {
  const { number, title } = { ...parseLayoutName(name), ...fields };
  const { revision, date = today } = fields;
  return {
    id,
    number,
    title,
    group: '',
    paper: paper && { size: [paper.width, paper.height] },
    frame: 'none',
    titleBlock: undefined,
    revision: revision === undefined ? undefined : { index: revision, date, text: '' },
    views: [],
    from: { drawing, layout: name },
  };
}
