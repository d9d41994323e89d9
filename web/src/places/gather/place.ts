import type { Place } from '../../ui/place';

export const GATHER_PLACE: Place = {
  path: 'gather',
  name: 'Gather',
  icon: 'stacks',
  key: '1',
  routes: [
    { path: '', title: 'Gather · Folvex', loadComponent: () => import('./gather').then((m) => m.Gather) },
    {
      path: ':drawing',
      title: 'Drawing · Folvex',
      loadComponent: () => import('./drawing/drawing-place').then((m) => m.DrawingPlace),
    },
  ],
  shortcuts: [
    {
      title: 'A drawing',
      lines: [
        ['Arrows', 'move'],
        ['+ and -', 'zoom in, zoom out'],
        ['0', 'show all'],
        ['Escape', 'stop measuring or drawing a window'],
      ],
    },
  ],
};
