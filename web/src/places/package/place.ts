import type { Place } from '../../ui/place';
import { PAGE_BOARD_KEYS, PAGE_STRIP_KEYS } from './shortcuts';

export const PLACE: Place = {
  path: 'packages',
  name: 'Package',
  icon: 'auto_stories',
  key: '4',
  undoable: true,
  routes: [
    { path: '', title: 'Package · Folvex', loadComponent: () => import('./package-place').then((m) => m.PackagePlace) },
    {
      path: ':package',
      title: 'Package · Folvex',
      loadComponent: () => import('./package-place').then((m) => m.PackagePlace),
    },
  ],
  shortcuts: [PAGE_STRIP_KEYS, PAGE_BOARD_KEYS],
};
