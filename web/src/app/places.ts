import { GATHER_PLACE } from '../places/gather/place';
import { ISSUES_PLACE } from '../places/issues/place';
import { PACKAGE_PLACE } from '../places/package/place';
import { PENS_PLACE } from '../places/pens/place';
import { LIGHT_TABLE_PLACE } from '../places/light-table/place';
import { SETTINGS_PLACE } from '../places/settings/place';
import { SHEETS_PLACE } from '../places/sheets/place';
import type { Place, ShortcutGroup } from '../ui/place';

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

const keys = PLACES.flatMap(({ key }) => key ?? []);

/** Everything that the sheet of shortcuts shows. */
export const SHORTCUTS: readonly ShortcutGroup[] = [
  {
    title: 'Everywhere',
    lines: [
      [`${keys[0]} – ${keys[keys.length - 1]}`, 'open a place of the rail'],
      ['Ctrl + Z', 'undo the last change of a sheet, a package or a setting'],
      ['Ctrl + Shift + Z', 'redo it'],
      ['?', 'show these keys'],
    ],
  },
  ...[...PLACES, SETTINGS].flatMap(({ shortcuts }) => shortcuts),
];
