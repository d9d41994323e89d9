import { ARROWS, shortcutGroup } from '../../ui/shortcuts';

export const LADDER_KEYS = shortcutGroup('Pens', {
  heavier: { keys: ['ArrowUp'], words: 'move the selected layer to the next heavier weight' },
  lighter: { keys: ['ArrowDown'], words: 'move it to the next lighter weight' },
});

export const PREVIEW_KEYS = shortcutGroup('The piece of a sheet in Pens', {
  pan: { keys: ARROWS, words: 'move' },
});
