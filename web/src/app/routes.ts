import type { Routes } from '@angular/router';

/** The places, in the working order. */
export const PLACES = [
  { path: 'gather', name: 'Gather', icon: 'stacks', key: '1' },
  { path: 'sheets', name: 'Sheets', icon: 'grid_view', key: '2' },
  { path: 'pens', name: 'Pens', icon: 'line_weight', key: '3' },
  { path: 'package', name: 'Package', icon: 'auto_stories', key: '4' },
  { path: 'light-table', name: 'Light table', icon: 'wb_incandescent', key: '5' },
  { path: 'issues', name: 'Issues', icon: 'table_chart_view', key: '6' },
] as const;

export const ROUTES: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'sheets' },
  { path: 'gather', title: 'Gather · Folvex', loadComponent: () => import('../gather/gather').then((m) => m.Gather) },
  {
    path: 'gather/:drawing',
    title: 'Drawing · Folvex',
    loadComponent: () => import('../drawing/drawing-place').then((m) => m.DrawingPlace),
  },
  { path: 'sheets', title: 'Sheets · Folvex', loadComponent: () => import('../sheets/wall').then((m) => m.Wall) },
  {
    path: 'sheets/:sheet',
    title: 'Sheet · Folvex',
    loadComponent: () => import('../sheet/sheet-place').then((m) => m.SheetPlace),
  },
  { path: 'pens', title: 'Pens · Folvex', loadComponent: () => import('../pens/pens-place').then((m) => m.PensPlace) },
  {
    path: 'package',
    title: 'Package · Folvex',
    loadComponent: () => import('../package/package-place').then((m) => m.PackagePlace),
  },
  {
    path: 'light-table',
    title: 'Light table · Folvex',
    loadComponent: () => import('../runs/light-table').then((m) => m.LightTable),
  },
  {
    path: 'issues',
    title: 'Issues · Folvex',
    loadComponent: () => import('../issues/issues-place').then((m) => m.IssuesPlace),
  },
  {
    path: 'settings',
    title: 'Settings · Folvex',
    loadComponent: () => import('../settings/settings-place').then((m) => m.SettingsPlace),
  },
  { path: '**', redirectTo: 'sheets' },
];
