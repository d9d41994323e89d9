import { shortcutGroup } from '../../ui/shortcuts';

export const PAGE_STRIP_KEYS = shortcutGroup('Package', {
  previous: { keys: ['ArrowLeft'], words: 'previous page; with Shift move the page there' },
  next: { keys: ['ArrowRight'], words: 'next page; with Shift move the page there' },
  first: { keys: ['Home'], words: 'first page; with Shift move the page there' },
  last: { keys: ['End'], words: 'last page; with Shift move the page there' },
  remove: { keys: ['Delete'], words: 'remove the page' },
});
