import type { Place } from '../../ui/place';

export const PLACE: Place = {
  path: 'settings',
  name: 'Settings',
  icon: 'settings',
  undoable: true,
  routes: [
    {
      path: '',
      title: 'Settings · Folvex',
      loadComponent: () => import('./settings-place').then((m) => m.SettingsPlace),
    },
  ],
  shortcuts: [],
};
