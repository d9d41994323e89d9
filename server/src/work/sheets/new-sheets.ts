import { randomUUID } from 'node:crypto';
import type { NewSheet } from '@folvex/contract';
import { parseLayoutName, type GroupSettings, type LayoutFields, type Sheet } from '@folvex/core';
import { today } from '@folvex/press';

/** A sheet that takes a layout over as it is; what its title block does not say comes from the layout's name. */
export function sheetFromLayout(
  drawing: string,
  layout: string,
  paper: { width: number; height: number },
  { number, title, revision, date }: LayoutFields = {},
): Sheet {
  const named = parseLayoutName(layout);
  return {
    id: randomUUID(),
    number: number ?? named.number,
    title: title ?? named.title,
    group: '',
    paper: { size: [paper.width, paper.height] },
    frame: 'none',
    titleBlock: undefined,
    revision: revision === undefined ? undefined : { index: revision, date: date ?? today(), text: '' },
    views: [],
    from: { drawing, layout },
  };
}

/**
 * A sheet that shows all of a drawing's model, or a window of it, centred, in a frame with a title block: those that
 * its group says, where it says them.
 */
export function newSheet(
  { drawing, number, title, group, paper, scale, window }: NewSheet,
  { frame = 'iso5457', marks = [], template }: GroupSettings = {},
): Sheet {
  return {
    id: randomUUID(),
    number,
    title,
    group,
    paper,
    frame,
    ...(marks.length > 0 && { marks }),
    titleBlock: { ...(template && { template }), fields: {} },
    revision: undefined,
    views: [
      {
        id: 'v1',
        drawing,
        space: 'model',
        window: window ?? 'extents',
        scale,
        at: 'centre',
        layersOff: [],
        label: '',
      },
    ],
  };
}
