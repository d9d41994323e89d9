import type { Place } from '../../ui/place';

export const LIGHT_TABLE_PLACE: Place = {
  path: 'light-table',
  name: 'Light table',
  icon: 'wb_incandescent',
  key: '5',
  routes: [
    { path: '', title: 'Light table · Folvex', loadComponent: () => import('./light-table').then((m) => m.LightTable) },
  ],
  shortcuts: [
    {
      title: 'Light table',
      lines: [
        ['Page up, page down', 'previous page, next page'],
        ['+ and -', 'larger, smaller'],
        ['0', 'whole page'],
        ['/', 'search the text'],
      ],
    },
  ],
};
