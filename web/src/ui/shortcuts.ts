/** What a key does in one place: the keys that start it, and its words in the sheet of shortcuts. */
export interface Shortcut {
  /**
   * `KeyboardEvent.key`, letters in lower case, after "Ctrl+" (which is also the Command key) and "Shift+" where they
   * are needed. Without "Shift+" a key works with Shift too, so the shortcut that needs Shift is listed first.
   */
  keys: readonly string[];
  /** Keys that do the same and are not listed, such as the unshifted "=" for "+". */
  also?: readonly string[];
  words: string;
}

/** The shortcuts that work in one place or view, under their heading in the sheet of shortcuts. */
export interface ShortcutGroup<Id extends string = string> {
  title: string;
  shortcuts: Readonly<Record<Id, Shortcut>>;
}

const ARROW_KEYS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] as const;
const ARROW_STEPS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const KEY_NAMES: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'Page up',
  PageDown: 'Page down',
  ' ': 'Space',
};

/** Shortcuts that several views share. */
export const ARROWS: readonly string[] = ARROW_KEYS;
export const SHIFT_ARROWS: readonly string[] = ARROW_KEYS.map((key) => `Shift+${key}`);
export const ZOOM_IN: Shortcut = { keys: ['+'], also: ['='], words: 'zoom in' };
export const ZOOM_OUT: Shortcut = { keys: ['-'], words: 'zoom out' };

/** Keeps the ids of a group's shortcuts, so that handlers can only ask for those that are listed. */
export function shortcutGroup<Id extends string>(
  title: string,
  shortcuts: Readonly<Record<Id, Shortcut>>,
): ShortcutGroup<Id> {
  return { title, shortcuts };
}

/** The shortcut of the group that the pressed keys start, or undefined. */
export function shortcutOf<Id extends string>(event: KeyboardEvent, group: ShortcutGroup<Id>): Id | undefined {
  const ids = Object.keys(group.shortcuts) as Id[];
  return ids.find((id) => isPressed(event, group.shortcuts[id]));
}

/** The direction of an arrow key as a unit step, x to the right and y up; undefined for other keys. */
export function arrowStep(event: KeyboardEvent): readonly [number, number] | undefined {
  return ARROW_STEPS[event.key];
}

/** The key alone, as shortcuts name it: letters in lower case. */
export function pressedKey({ key }: KeyboardEvent): string {
  return key.length === 1 ? key.toLowerCase() : key;
}

/** True while a person types into a field, where keys are text. */
export function isTyping(event: Event): boolean {
  const { target } = event;
  return target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable]') !== null;
}

/** How the keys of a shortcut are written: "Ctrl + Z", "Arrows", "Home, End". */
export function keysInWords({ keys }: Shortcut): string {
  if (keys === ARROWS) return 'Arrows';
  if (keys === SHIFT_ARROWS) return 'Shift + arrows';
  return keys.map(keyInWords).join(', ');
}

function isPressed(event: KeyboardEvent, { keys, also = [] }: Shortcut): boolean {
  if (event.altKey) return false;
  const pressed = pressedKey(event);
  return [...keys, ...also]
    .map(parseKey)
    .some(
      ({ key, ctrl, shift }) =>
        key === pressed && ctrl === (event.ctrlKey || event.metaKey) && (!shift || event.shiftKey),
    );
}

function parseKey(chord: string): { key: string; ctrl: boolean; shift: boolean } {
  const [, ctrl, shift, key] = /^(Ctrl\+)?(Shift\+)?(.+)$/.exec(chord)!;
  return { key: key!, ctrl: ctrl !== undefined, shift: shift !== undefined };
}

function keyInWords(chord: string): string {
  const { key, ctrl, shift } = parseKey(chord);
  const name = KEY_NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key);
  return [...(ctrl ? ['Ctrl'] : []), ...(shift ? ['Shift'] : []), name].join(' + ');
}
