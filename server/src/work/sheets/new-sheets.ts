import { randomUUID } from 'node:crypto';
import type { NewSheet } from '@folvex/contract';
import type { GroupSettings, Sheet } from '@folvex/core';

/**
 * A sheet that shows all of a drawing's model, or a window of it, centred, in a frame with a title block: those that
 * its group says, where it says them.
 */
export function newSheet(
  { drawing, number, title, group, paper, scale, window, layersOff = [] }: NewSheet,
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
        layersOff,
        label: '',
      },
    ],
  };
}
