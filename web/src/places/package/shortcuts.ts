import { ARROWS, shortcutGroup } from '../../ui/shortcuts';

export const PAGE_STRIP_KEYS = shortcutGroup('Package', {
  previous: { keys: ['ArrowLeft'], words: 'previous page; with Shift move the page there' },
  next: { keys: ['ArrowRight'], words: 'next page; with Shift move the page there' },
  first: { keys: ['Home'], words: 'first page; with Shift move the page there' },
  last: { keys: ['End'], words: 'last page; with Shift move the page there' },
  remove: { keys: ['Delete'], words: 'remove the page' },
});

export const PAGE_BOARD_KEYS = shortcutGroup('Package, grid and table of pages', {
  all: { keys: ['Ctrl+a'], words: 'select all pages' },
  cut: { keys: ['Ctrl+x'], words: 'cut the selected pages' },
  paste: { keys: ['Ctrl+v'], words: 'paste what was cut after the page at hand' },
  position: { keys: ['Enter'], words: 'type the position of the selected pages' },
  select: { keys: [' '], words: 'select the page at hand, or not' },
  remove: { keys: ['Delete'], words: 'remove the selected pages' },
  clear: { keys: ['Escape'], words: 'select nothing' },
  first: { keys: ['Home'], words: 'first page' },
  last: { keys: ['End'], words: 'last page' },
  step: { keys: ARROWS, words: 'next page; with Shift select up to there' },
});
