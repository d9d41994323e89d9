import type { Routes } from '@angular/router';

/** Keys under a heading of the sheet of shortcuts: each with what it does. */
export interface ShortcutGroup {
  title: string;
  lines: readonly (readonly [keys: string, words: string])[];
}

/** A place of the working order: its route, its link in the rail, its key and its part of the sheet of shortcuts. */
export interface Place {
  path: string;
  name: string;
  icon: string;
  /** The key that opens it; absent: none. */
  key?: string;
  /** Its pages, below its path. */
  routes: Routes;
  shortcuts: readonly ShortcutGroup[];
}
