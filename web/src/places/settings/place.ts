import type { Place } from '../../ui/place';

export const SETTINGS_PLACE: Place = {
  path: 'settings',
  name: 'Settings',
  icon: 'settings',
  routes: [
    {
      path: '',
      title: 'Settings · Folvex',
      loadComponent: () => import('./settings-place').then((m) => m.SettingsPlace),
    },
  ],
  shortcuts: [],
};
