import type { Place } from '../../ui/place';
import { LADDER_KEYS, PREVIEW_KEYS } from './shortcuts';

export const PLACE: Place = {
  path: 'pens',
  name: 'Pens',
  icon: 'line_weight',
  key: '3',
  undoable: true,
  routes: [{ path: '', title: 'Pens · Folvex', loadComponent: () => import('./pens-place').then((m) => m.PensPlace) }],
  shortcuts: [LADDER_KEYS, PREVIEW_KEYS],
};
