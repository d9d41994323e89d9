import type { Place } from '../../ui/place';

export const PACKAGE_PLACE: Place = {
  path: 'package',
  name: 'Package',
  icon: 'auto_stories',
  key: '4',
  routes: [
    { path: '', title: 'Package · Folvex', loadComponent: () => import('./package-place').then((m) => m.PackagePlace) },
  ],
  shortcuts: [
    {
      title: 'Package',
      lines: [
        ['← →', 'move between pages'],
        ['Shift + ← →', 'move the page in the reading order'],
        ['Home, End', 'first, last page; with Shift move the page there'],
        ['Delete', 'remove the page'],
      ],
    },
  ],
};
