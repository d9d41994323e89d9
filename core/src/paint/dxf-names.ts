import { isOwnFont } from '../text/fonts';
import type { FontFace } from '../text/sfnt';

/** The name of the text style for a typeface. Own typefaces go by their font's name: their ids would mean nothing elsewhere. */
export function styleOf({ id, postScriptName }: FontFace): string {
  return isOwnFont(id) ? legal(postScriptName) : id;
}

/** Names of tables hold no such characters (published DXF reference, symbol table names), and are at most this long. */
export function legal(name: string): string {
  const clean = [...name].map((c) => (c < ' ' || '<>/\\":;?*|=`,'.includes(c) ? '_' : c)).join('');
  return clean.trim().slice(0, 255) || '_';
}

/** A name, counted up where it is taken; `taken` in lower case. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  let free = name;
  for (let count = 2; taken.has(free.toLowerCase()); count++) free = `${name.slice(0, 240)} ${count}`;
  return free;
}

/** A text for the format, with the characters that it reads as codes spelled out. */
export function spelled(text: string): string {
  const plain = [...text].map((c) => (c < ' ' ? ' ' : c)).join('');
  return plain.replace(/%%/g, '%%%%%%').replace(/\^/g, '^ ');
}
