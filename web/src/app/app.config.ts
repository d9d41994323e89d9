import { provideHttpClient, withInterceptors, withNoXsrfProtection } from '@angular/common/http';
import { provideZonelessChangeDetection, type ApplicationConfig } from '@angular/core';
import { MAT_FORM_FIELD_DEFAULT_OPTIONS } from '@angular/material/form-field';
import { MAT_TOOLTIP_DEFAULT_OPTIONS } from '@angular/material/tooltip';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideStoreDevtools } from '@ngrx/store-devtools';
import { noticeEndedSession } from '../state/session/session-guard';
import { provideState } from '../state/store';
import { provideIcons } from '../ui/icons';
import { ROUTES } from './routes';

/** Set by Angular's build; false where it is for production. */
declare const ngDevMode: boolean;

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    // The server refuses changes from other origins instead; reading cookies would slow down each request.
    provideHttpClient(withNoXsrfProtection(), withInterceptors([noticeEndedSession])),
    provideRouter(ROUTES, withComponentInputBinding()),
    provideState(),
    ngDevMode ? provideStoreDevtools({ maxAge: 50 }) : [],
    provideIcons(),
    { provide: MAT_FORM_FIELD_DEFAULT_OPTIONS, useValue: { appearance: 'outline', subscriptSizing: 'dynamic' } },
    { provide: MAT_TOOLTIP_DEFAULT_OPTIONS, useValue: { showDelay: 500, hideDelay: 0, touchendHideDelay: 1500 } },
  ],
};
