import { ARROWS, shortcutGroup } from '../../ui/shortcuts';

export const PAGE_STRIP_KEYS = shortcutGroup('Package', {
  previous: { keys: ['ArrowLeft'], words: 'previous page; with Shift move the page there' },
  next: { keys: ['ArrowRight'], words: 'next page; with Shift move the page there' },
  first: { keys: ['Home'], words: 'first page; with Shift move the page there' },
  last: { keys: ['End'], words: 'last page; with Shift move the page there' },
  remove: { keys: ['Delete'], words: 'remove the page' },
});

export const PAGE_BOARD_KEYS = shortcutGroup('Pages as a grid or table', {
  all: { keys: ['Ctrl+a'], words: 'select all pages' },
  cut: { keys: ['Ctrl+x'], words: 'cut the selected pages' },
  paste: { keys: ['Ctrl+v'], words: 'paste the cut pages after the current one' },
  position: { keys: ['Enter'], words: 'type a position for the selected pages' },
  select: { keys: [' '], words: 'select or deselect the current page' },
  remove: { keys: ['Delete'], words: 'remove the selected pages' },
  clear: { keys: ['Escape'], words: 'clear the selection' },
  first: { keys: ['Home'], words: 'first page' },
  last: { keys: ['End'], words: 'last page' },
  step: { keys: ARROWS, words: 'go to the next page; with Shift extend the selection' },
});
