import type { Routes } from '@angular/router';
import { openProject } from './open-project';
import { signedIn } from '../state/session/session-guard';
import { PLACES, SETTINGS } from './places';

export const ROUTES: Routes = [
  {
    path: '',
    pathMatch: 'full',
    canActivate: [signedIn],
    title: 'Projects · Folvex',
    loadComponent: () => import('./projects').then((m) => m.Projects),
  },
  {
    path: 'sign-in',
    title: 'Sign in · Folvex',
    loadComponent: () => import('./sign-in').then((m) => m.SignInPage),
  },
  {
    path: 'join/:invitation',
    title: 'Join · Folvex',
    loadComponent: () => import('./join').then((m) => m.JoinPage),
  },
  {
    path: 'files/:link',
    title: 'Files for you · Folvex',
    loadComponent: () => import('./recipient-files').then((m) => m.RecipientFilesPage),
  },
  {
    path: 'account',
    canActivate: [signedIn],
    title: 'Account · Folvex',
    loadComponent: () => import('./account').then((m) => m.AccountPage),
  },
  {
    path: 'api-reference',
    canActivate: [signedIn],
    title: 'API reference · Folvex',
    loadComponent: () => import('./api-reference/api-reference').then((m) => m.ApiReferencePage),
  },
  {
    path: 'projects/:project',
    canActivate: [signedIn, openProject],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'sheets' },
      ...[...PLACES, SETTINGS].map(({ path, routes }) => ({ path, children: routes })),
    ],
  },
  { path: '**', redirectTo: '' },
];
