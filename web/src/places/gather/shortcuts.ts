import { ARROWS, shortcutGroup, ZOOM_IN, ZOOM_OUT } from '../../ui/shortcuts';

export const DRAWING_KEYS = shortcutGroup('A drawing', {
  pan: { keys: ARROWS, words: 'move' },
  zoomIn: ZOOM_IN,
  zoomOut: ZOOM_OUT,
  showAll: { keys: ['0'], words: 'show all' },
  stop: { keys: ['Escape'], words: 'stop measuring or drawing a window' },
});
