import type { Place } from '../ui/place';
import { shortcutGroup, type ShortcutGroup } from '../ui/shortcuts';
import { ALL_PLACES } from './place-list';

/** The places of the rail, in the working order, which is that of their keys. */
export const PLACES: readonly Place[] = ALL_PLACES.filter(({ key }) => key).sort((a, b) => (a.key! < b.key! ? -1 : 1));
/** The one behind the door at the bottom of the rail. */
export const SETTINGS: Place = ALL_PLACES.find(({ key }) => !key)!;

/** The keys that work everywhere. */
export const APP_KEYS = shortcutGroup('Everywhere', {
  open: { keys: PLACES.flatMap(({ key }) => key ?? []), words: 'open a place of the rail' },
  quickSearch: {
    keys: ['Ctrl+k'],
    words: 'open a place, sheet, package or drawing, or start an action, by its name',
  },
  redo: { keys: ['Ctrl+Shift+z', 'Ctrl+y'], words: 'redo the change that was undone last' },
  undo: { keys: ['Ctrl+z'], words: 'undo the last change of a sheet, a package or a setting' },
  help: { keys: ['?'], words: 'show these keys' },
});

/** Everything that the sheet of shortcuts shows. */
export const SHORTCUTS: readonly ShortcutGroup[] = [
  APP_KEYS,
  ...[...PLACES, SETTINGS].flatMap(({ shortcuts }) => shortcuts),
];

/** The place that an address of the application belongs to, such as `/projects/2617/sheets/a-101`. */
export function placeAt(address: string): Place | undefined {
  const [, projects, , path] = address.split(/[/?#;]/);
  return projects === 'projects' ? [...PLACES, SETTINGS].find((place) => place.path === path) : undefined;
}
