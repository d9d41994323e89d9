import type { Sheet, View } from '@folvex/core';

/** A sheet with a view at each of some scales. */
export function sheet(...scales: string[]): Sheet {
  const view = (scale: string, i: number): View => ({
    id: `v${i}`,
    drawing: 'd',
    space: 'model',
    window: 'extents',
    scale,
    at: 'centre',
    layersOff: [],
    label: '',
  });
  return {
    id: 'a',
    number: 'A-101',
    title: 'Plan',
    group: 'g',
    paper: { name: 'A1', orientation: 'landscape' },
    frame: 'iso5457',
    titleBlock: undefined,
    revision: undefined,
    views: scales.map(view),
  };
}
