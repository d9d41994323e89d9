import { GATHER_PLACE } from '../places/gather/place';
import { ISSUES_PLACE } from '../places/issues/place';
import { PACKAGE_PLACE } from '../places/package/place';
import { PENS_PLACE } from '../places/pens/place';
import { LIGHT_TABLE_PLACE } from '../places/light-table/place';
import { SETTINGS_PLACE } from '../places/settings/place';
import { SHEETS_PLACE } from '../places/sheets/place';
import type { Place } from '../ui/place';
import { shortcutGroup, type ShortcutGroup } from '../ui/shortcuts';

/** The places of the rail, in the working order. */
export const PLACES: readonly Place[] = [
  GATHER_PLACE,
  SHEETS_PLACE,
  PENS_PLACE,
  PACKAGE_PLACE,
  LIGHT_TABLE_PLACE,
  ISSUES_PLACE,
];
/** The one behind the door at the bottom of the rail. */
export const SETTINGS: Place = SETTINGS_PLACE;

/** The keys that work everywhere. */
export const APP_KEYS = shortcutGroup('Everywhere', {
  open: { keys: PLACES.flatMap(({ key }) => key ?? []), words: 'open a place of the rail' },
  redo: { keys: ['Ctrl+Shift+z', 'Ctrl+y'], words: 'redo the change that was undone last' },
  undo: { keys: ['Ctrl+z'], words: 'undo the last change of a sheet, a package or a setting' },
  help: { keys: ['?'], words: 'show these keys' },
});

/** Everything that the sheet of shortcuts shows. */
export const SHORTCUTS: readonly ShortcutGroup[] = [
  APP_KEYS,
  ...[...PLACES, SETTINGS].flatMap(({ shortcuts }) => shortcuts),
];

/** The place that an address of the application belongs to, such as `/sheets/A-101`. */
export function placeAt(address: string): Place | undefined {
  const [path] = address.replace(/^\//, '').split(/[/?#;]/);
  return [...PLACES, SETTINGS].find((place) => place.path === path);
}
