import type { Place } from '../../ui/place';

export const PLACE: Place = {
  path: 'issues',
  name: 'Issues',
  icon: 'table_chart_view',
  key: '6',
  undoable: false,
  routes: [
    { path: '', title: 'Issues · Folvex', loadComponent: () => import('./issues-place').then((m) => m.IssuesPlace) },
  ],
  shortcuts: [],
};
