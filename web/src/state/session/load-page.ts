import { DOCUMENT, inject, InjectionToken } from '@angular/core';

/** Loads an address as a new page, without what this one holds. */
export const LOAD_PAGE = new InjectionToken<(address: string) => void>('load page', {
  providedIn: 'root',
  factory: () => {
    const document = inject(DOCUMENT);
    return (address) => document.location.assign(address);
  },
});
