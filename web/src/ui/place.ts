import type { Routes } from '@angular/router';
import type { IconName } from './icons';
import type { ShortcutGroup } from './shortcuts';

/** A place of the working order: its route, its link in the rail, its key and its part of the sheet of shortcuts. */
export interface Place {
  path: string;
  name: string;
  icon: IconName;
  /** The key that opens it; absent: none. */
  key?: string;
  /** True where sheets, packages or settings are changed, so that Undo and Redo are offered. */
  undoable: boolean;
  /** Its pages, below its path. */
  routes: Routes;
  shortcuts: readonly ShortcutGroup[];
}
