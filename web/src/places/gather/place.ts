import type { Place } from '../../ui/place';
import { DRAWING_KEYS } from './shortcuts';

export const PLACE: Place = {
  path: 'drawings',
  name: 'Gather',
  icon: 'stacks',
  key: '1',
  undoable: true,
  routes: [
    { path: '', title: 'Gather · Folvex', loadComponent: () => import('./gather').then((m) => m.Gather) },
    {
      path: ':drawing',
      title: 'Drawing · Folvex',
      loadComponent: () => import('./drawing/drawing-place').then((m) => m.DrawingPlace),
    },
  ],
  shortcuts: [DRAWING_KEYS],
};
