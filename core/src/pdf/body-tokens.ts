/** What is done with parts of the text of an object. */
export interface TokenChanges {
  /** What replaces a reference to an object. */
  reference(number: number): string;
  /** What replaces a string of these bytes; absent: strings stay as they are written. */
  string?: (bytes: Uint8Array) => string;
}

const ESCAPES: Readonly<Record<string, number>> = { n: 10, r: 13, t: 9, b: 8, f: 12 };
const NEXT = /[(<]|(?<![\d.])(\d+) 0 R\b/g;

/** The text of an object with its references and strings changed, whatever their content looks like (ISO 32000-2, 7.3). */
export function changedTokens(body: string, changes: TokenChanges): string {
  let out = '';
  let at = 0;
  const next = new RegExp(NEXT);
  for (let match = next.exec(body); match; match = next.exec(body)) {
    out += body.slice(at, match.index);
    if (match[1] !== undefined) {
      out += changes.reference(Number(match[1]));
      at = next.lastIndex;
      continue;
    }
    const end = endOf(body, match.index);
    const token = body.slice(match.index, end);
    const bytes = changes.string && bytesOf(token);
    out += bytes ? changes.string!(bytes) : token;
    at = next.lastIndex = end;
  }
  return out + body.slice(at);
}

/** The objects that a text refers to, in order. */
export function referencesOf(body: string): number[] {
  const found: number[] = [];
  changedTokens(body, { reference: (number) => `${found.push(number)}` });
  return found;
}

/** Where the string ends that begins at a bracket; just behind that where a dictionary begins. */
function endOf(body: string, start: number): number {
  if (body[start] === '<') {
    if (body[start + 1] === '<') return start + 2;
    const end = body.indexOf('>', start);
    return end < 0 ? body.length : end + 1;
  }
  let depth = 0;
  for (let i = start; i < body.length; i++) {
    if (body[i] === '\\') i++;
    else if (body[i] === '(') depth++;
    else if (body[i] === ')' && --depth === 0) return i + 1;
  }
  return body.length;
}

/** The bytes that a string token stands for; undefined for what is none. */
function bytesOf(token: string): Uint8Array | undefined {
  if (token === '<<') return undefined;
  const inner = token.slice(1, -1);
  if (token[0] === '<') {
    const digits = inner.replace(/\s/g, '');
    const pairs = (digits.length % 2 ? `${digits}0` : digits).match(/../g) ?? [];
    return Uint8Array.from(pairs, (pair) => parseInt(pair, 16));
  }
  const bytes: number[] = [];
  for (let i = 0; i < inner.length; i++) {
    if (inner[i] !== '\\') {
      bytes.push(inner.charCodeAt(i));
      continue;
    }
    const octal = /^[0-7]{1,3}/.exec(inner.slice(i + 1))?.[0];
    const letter = inner[++i] ?? '';
    if (octal) {
      bytes.push(parseInt(octal, 8) & 255);
      i += octal.length - 1;
    } else if (letter !== '\n') bytes.push(ESCAPES[letter] ?? letter.charCodeAt(0));
  }
  return Uint8Array.from(bytes);
}
