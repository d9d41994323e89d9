import { shortcutGroup, ZOOM_IN, ZOOM_OUT } from '../../ui/shortcuts';

export const LIGHT_TABLE_KEYS = shortcutGroup('Light table', {
  next: { keys: ['PageDown'], words: 'next page' },
  previous: { keys: ['PageUp'], words: 'previous page' },
  larger: { ...ZOOM_IN, words: 'larger' },
  smaller: { ...ZOOM_OUT, words: 'smaller' },
  whole: { keys: ['0'], words: 'whole page' },
  trueSize: { keys: ['t'], words: 'true size' },
  search: { keys: ['/'], words: 'search the text' },
});
