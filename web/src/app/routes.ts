import type { Routes } from '@angular/router';
import { PLACES, SETTINGS } from './places';

const HOME = 'sheets';

export const ROUTES: Routes = [
  { path: '', pathMatch: 'full', redirectTo: HOME },
  ...[...PLACES, SETTINGS].map(({ path, routes }) => ({ path, children: routes })),
  { path: '**', redirectTo: HOME },
];
