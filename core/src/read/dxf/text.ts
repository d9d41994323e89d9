/** Characters that DXF text writes as `%%` codes, beside those given by number. */
const PERCENT_CODES: Readonly<{ [code: string]: string }> = { d: '°', p: '±', c: '⌀', '%': '%' };

/**
 * Decodes what DXF hides in plain text: `%%d %%p %%c %%%`, `%%nnn`, the toggles `%%u %%o %%k` (dropped), `^I` and
 * `\U+XXXX`.
 */
export function decodeDxfText(text: string): string {
  if (!/[%^\\]/.test(text)) return text;
  return decodeUnicode(text)
    .replace(/%%(\d{3}|.)/gs, (whole, code: string) => {
      if (code.length === 3) return String.fromCharCode(Number(code));
      const low = code.toLowerCase();
      if (low === 'u' || low === 'o' || low === 'k') return '';
      return PERCENT_CODES[low] ?? whole;
    })
    .replace(/\^(.)/gs, (whole, c: string) =>
      c === 'I' ? ' ' : c === ' ' ? '^' : c === 'J' || c === 'M' ? '' : whole,
    );
}

function decodeUnicode(text: string): string {
  return text.replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
}

/**
 * The lines of an MTEXT, formatting codes taken out: `\P` and `\n` break lines, `\~` is a hard space, `\S1/2;` a
 * stack (shown as `1/2`), `\U+XXXX` a character, `{}` groups; `\f…; \H…; \C…; \A…; \W…; \Q…; \T…; \p…;` and the
 * switches `\L \l \O \o \K \k` change only the look.
 */
export function mtextLines(raw: string): string[] {
  const text = decodeUnicode(raw);
  let out = '';
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (c === '{' || c === '}') continue;
    if (c !== '\\') {
      out += c;
      continue;
    }
    const code = text[++i];
    if (code === undefined) break;
    if (code === 'P' || code === 'N' || code === 'n') out += '\n';
    else if (code === '~') out += '\u00a0';
    else if (code === '\\' || code === '{' || code === '}') out += code;
    else if ('LlOoKk'.includes(code)) continue;
    else if (code === 'S') {
      const end = argumentEnd(text, i);
      out += stack(text.slice(i + 1, end));
      i = end;
    } else if ('fFHCcAWQTp'.includes(code)) i = argumentEnd(text, i);
    else out += '\\' + code;
  }
  return out.split(/\r?\n/).map((line) => decodeDxfText(line));
}

/** Position of the semicolon that ends the argument of the code at `at`; the code itself where there is none. */
function argumentEnd(text: string, at: number): number {
  const end = text.indexOf(';', at);
  return end < 0 ? text.length : end;
}

function stack(argument: string): string {
  const [over = '', under = ''] = argument.split(/[/#^]/);
  if (!under.trim()) return over.trim();
  return argument.includes('^') ? `${over.trim()} ${under.trim()}` : `${over.trim()}/${under.trim()}`;
}
