import { APP_KEYS, placeAt, PLACES, SETTINGS, SHORTCUTS } from '../../src/app/places';
import { WALL_KEYS } from '../../src/places/sheets/shortcuts';
import { arrowStep, isTyping, keysInWords, shortcutOf } from '../../src/ui/shortcuts';

const press = (key: string, init: KeyboardEventInit = {}): KeyboardEvent =>
  new KeyboardEvent('keydown', { key, ...init });

describe('shortcuts', () => {
  it('are found by their keys, the one with Shift first', () => {
    expect(shortcutOf(press('ArrowLeft'), WALL_KEYS)).toBe('move');
    expect(shortcutOf(press('ArrowLeft', { shiftKey: true }), WALL_KEYS)).toBe('extend');
    expect(shortcutOf(press('A', { shiftKey: true }), WALL_KEYS)).toBe('all');
    expect(shortcutOf(press('a', { metaKey: true }), WALL_KEYS)).toBe('all');
    expect(shortcutOf(press('='), WALL_KEYS)).toBe('larger');
    expect(shortcutOf(press('q'), WALL_KEYS)).toBeUndefined();
    expect(shortcutOf(press('-', { ctrlKey: true }), WALL_KEYS)).toBeUndefined();
    expect(shortcutOf(press('-', { altKey: true }), WALL_KEYS)).toBeUndefined();
  });

  it('tell undo from redo', () => {
    expect(shortcutOf(press('z', { ctrlKey: true }), APP_KEYS)).toBe('undo');
    expect(shortcutOf(press('Z', { ctrlKey: true, shiftKey: true }), APP_KEYS)).toBe('redo');
    expect(shortcutOf(press('y', { metaKey: true }), APP_KEYS)).toBe('redo');
    expect(shortcutOf(press('z'), APP_KEYS)).toBeUndefined();
  });

  it('are written as people read them', () => {
    expect(keysInWords(WALL_KEYS.shortcuts.move)).toBe('Arrows');
    expect(keysInWords(WALL_KEYS.shortcuts.extend)).toBe('Shift + arrows');
    expect(keysInWords(WALL_KEYS.shortcuts.all)).toBe('A, Ctrl + A');
    expect(keysInWords(WALL_KEYS.shortcuts.larger)).toBe('+');
    expect(keysInWords(APP_KEYS.shortcuts.redo)).toBe('Ctrl + Shift + Z, Ctrl + Y');
    expect(keysInWords(APP_KEYS.shortcuts.open)).toBe('1, 2, 3, 4, 5, 6');
  });

  it('of a place never take a key that works everywhere', () => {
    const everywhere = Object.values(APP_KEYS.shortcuts).flatMap(({ keys }) => keys);
    const taken = [...PLACES, SETTINGS].flatMap(({ shortcuts }) =>
      shortcuts.flatMap((group) => Object.values(group.shortcuts).flatMap(({ keys, also = [] }) => [...keys, ...also])),
    );
    expect(taken.filter((key) => everywhere.includes(key))).toEqual([]);
  });

  it('have each key once in a group', () => {
    for (const { shortcuts } of SHORTCUTS) {
      const keys = Object.values(shortcuts).flatMap((one) => [...one.keys, ...(one.also ?? [])]);
      expect(keys).toEqual([...new Set(keys)]);
    }
  });

  it('leave a field to what is typed', () => {
    const field = document.createElement('input');
    const heard: boolean[] = [];
    field.addEventListener('keydown', (event) => heard.push(isTyping(event)));
    field.dispatchEvent(press('a'));
    document.body.addEventListener('keydown', (event) => heard.push(isTyping(event)), { once: true });
    document.body.dispatchEvent(press('a'));
    expect(heard).toEqual([true, false]);
  });

  it('turn arrow keys into steps on paper, y up', () => {
    expect(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].map((key) => arrowStep(press(key)))).toEqual([
      [-1, 0],
      [1, 0],
      [0, 1],
      [0, -1],
    ]);
    expect(arrowStep(press('Home'))).toBeUndefined();
  });
});

describe('the place of an address', () => {
  it('is that of the part behind its project', () => {
    expect(placeAt('/projects/2617/sheets/A-101?view=1')?.path).toBe('sheets');
    expect(placeAt('/projects/2617/runs')?.undoable).toBe(false);
    expect(placeAt('/projects/2617/settings')?.undoable).toBe(true);
    expect(placeAt('/')).toBeUndefined();
    expect(placeAt('/sheets')).toBeUndefined();
  });
});
