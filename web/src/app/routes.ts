import type { Routes } from '@angular/router';
import { openProject } from './open-project';
import { PLACES, SETTINGS } from './places';

export const ROUTES: Routes = [
  {
    path: '',
    pathMatch: 'full',
    title: 'Projects · Folvex',
    loadComponent: () => import('./projects').then((m) => m.Projects),
  },
  {
    path: 'projects/:project',
    canActivate: [openProject],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'sheets' },
      ...[...PLACES, SETTINGS].map(({ path, routes }) => ({ path, children: routes })),
    ],
  },
  { path: '**', redirectTo: '' },
];
