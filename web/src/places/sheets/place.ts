import type { Place } from '../../ui/place';
import { LIST_KEYS, OUTLINE_KEYS, SHEET_KEYS, WALL_KEYS } from './shortcuts';

export const PLACE: Place = {
  path: 'sheets',
  name: 'Sheets',
  icon: 'grid_view',
  key: '2',
  undoable: true,
  routes: [
    { path: '', title: 'Sheets · Folvex', loadComponent: () => import('./wall').then((m) => m.Wall) },
    {
      path: ':sheet',
      title: 'Sheet · Folvex',
      loadComponent: () => import('./sheet/sheet-place').then((m) => m.SheetPlace),
    },
  ],
  shortcuts: [WALL_KEYS, LIST_KEYS, SHEET_KEYS, OUTLINE_KEYS],
};
