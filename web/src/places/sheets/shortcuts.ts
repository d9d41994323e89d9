import { ARROWS, SHIFT_ARROWS, shortcutGroup, ZOOM_IN, ZOOM_OUT } from '../../ui/shortcuts';

export const WALL_KEYS = shortcutGroup('Sheets', {
  extend: { keys: SHIFT_ARROWS, words: 'select a range' },
  move: { keys: ARROWS, words: 'move between sheets' },
  toggle: { keys: [' '], words: 'select a sheet, or deselect it' },
  open: { keys: ['Enter'], words: 'open the sheet' },
  all: { keys: ['a', 'Ctrl+a'], words: 'select all; again: none' },
  none: { keys: ['Escape'], words: 'deselect' },
  larger: { ...ZOOM_IN, words: 'larger' },
  smaller: { ...ZOOM_OUT, words: 'smaller' },
});

export const LIST_KEYS = shortcutGroup('The list of sheets', {
  move: { keys: ARROWS, words: 'move between cells' },
  edit: { keys: ['Enter', 'F2'], words: 'edit the cell; Enter again: the cell below' },
  stop: { keys: ['Escape'], words: 'leave the cell as it was' },
  widen: { keys: ['Shift+ArrowLeft', 'Shift+ArrowRight'], words: 'on the head of a column: make it narrower or wider' },
});

export const SHEET_KEYS = shortcutGroup('A sheet', {
  moveFar: { keys: SHIFT_ARROWS, words: 'move the selected view or note by 10 mm' },
  move: { keys: ARROWS, words: 'move it by 1 mm' },
  remove: { keys: ['Delete'], words: 'remove the selected view or note' },
  deselect: { keys: ['Escape'], words: 'deselect' },
  zoomIn: ZOOM_IN,
  zoomOut: ZOOM_OUT,
  whole: { keys: ['0'], words: 'whole sheet' },
});

export const OUTLINE_KEYS = shortcutGroup('The outline of a view', {
  close: { keys: ['Enter'], words: 'close the outline' },
  removePoint: { keys: ['Backspace'], words: 'remove its last point' },
  discard: { keys: ['Escape'], words: 'discard it' },
});
