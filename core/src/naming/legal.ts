import { withoutTrailing } from './trailing';

/** Longest file name in UTF-8 bytes that every usual file system takes (common practice). */
const MAX_BYTES = 255;

/** Replacements for characters that some systems do not allow in names. */
export const REPLACEMENTS: Readonly<{ [character: string]: string }> = {
  '<': '(',
  '>': ')',
  ':': '-',
  '"': "'",
  '/': '-',
  '\\': '-',
  '|': '-',
  '?': '',
  '*': '',
};

/** Control characters of ASCII and of Latin-1. */
const CONTROL = /[\u0000-\u001f\u007f-\u009f]/;

const DOTS_AND_SPACES = /[. ]/;

/** Ends a name that was cut. */
const CUT = '\u2026';

/** Names of devices (Microsoft Learn, "Naming Files, Paths, and Namespaces"), also with the superscript digits of Latin-1. */
const RESERVED = /^(con|prn|aux|nul|conin\$|conout\$|(com|lpt)[1-9\u00b9\u00b2\u00b3])(\.|$)/i;

/**
 * A name as every usual system takes it: composed Unicode (NFC), illegal characters replaced by the table above,
 * control characters and trailing dots and spaces dropped, reserved names with `_` behind, what is longer than 255 bytes
 * cut, which `…` shows, with the extension kept. Empty when nothing legal is left.
 */
export function legalName(name: string, extension = ''): string {
  const plain = [...name.toWellFormed().normalize('NFC')]
    .filter((c) => !CONTROL.test(c))
    .map((c) => REPLACEMENTS[c] ?? c)
    .join('');
  const trimmed = withoutTrailing(plain.trim(), DOTS_AND_SPACES);
  const safe = RESERVED.test(trimmed) ? trimmed.replace(/^[^.]+/, '$&_') : trimmed;
  const most = MAX_BYTES - utf8Length(extension);
  const cut =
    utf8Length(safe) <= most ? safe : withoutTrailing(cutToBytes(safe, most - utf8Length(CUT)), DOTS_AND_SPACES) + CUT;
  return cut === '' ? '' : cut + extension;
}

/** A folder path from a name with slashes: each part legal, empty parts and `..` dropped. */
export function legalPath(path: string): string {
  return path
    .split(/[/\\]/)
    .map((part) => legalName(part))
    .filter((part) => part !== '')
    .join('/');
}

/** What two names are compared by: equal keys clash on a system that ignores case or composes Unicode. */
export function collisionKey(path: string): string {
  return path.normalize('NFC').toLowerCase().toUpperCase().normalize('NFC');
}

function cutToBytes(text: string, most: number): string {
  let length = 0;
  let out = '';
  for (const character of text) {
    length += utf8Length(character);
    if (length > most) break;
    out += character;
  }
  return out;
}

function utf8Length(text: string): number {
  let length = 0;
  for (const character of text) {
    const code = character.codePointAt(0)!;
    length += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return length;
}
