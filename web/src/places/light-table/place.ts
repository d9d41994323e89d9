import type { Place } from '../../ui/place';
import { LIGHT_TABLE_KEYS } from './shortcuts';

export const PLACE: Place = {
  path: 'runs',
  name: 'Light table',
  icon: 'wb_incandescent',
  key: '5',
  undoable: false,
  routes: [
    { path: '', title: 'Light table · Folvex', loadComponent: () => import('./light-table').then((m) => m.LightTable) },
    {
      path: ':run',
      title: 'Light table · Folvex',
      loadComponent: () => import('./light-table').then((m) => m.LightTable),
    },
  ],
  shortcuts: [LIGHT_TABLE_KEYS],
};
