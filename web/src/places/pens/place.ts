import type { Place } from '../../ui/place';

export const PENS_PLACE: Place = {
  path: 'pens',
  name: 'Pens',
  icon: 'line_weight',
  key: '3',
  routes: [{ path: '', title: 'Pens · Folvex', loadComponent: () => import('./pens-place').then((m) => m.PensPlace) }],
  shortcuts: [
    {
      title: 'Pens',
      lines: [['Up, down', 'move the selected layer to the next rung']],
    },
  ],
};
