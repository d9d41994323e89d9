/**
 * Characters that DXF text writes as `%%` codes, besides those given by number. For a diameter it is the letter that
 * people can type when they search.
 */
const PERCENT_CODES: Readonly<{ [code: string]: string }> = { d: '°', p: '±', c: 'Ø', '%': '%' };

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

/** Code pages of `\\M+n`, by n (DXF reference, multibyte interchange). */
const MULTIBYTE: readonly (string | undefined)[] = [undefined, 'shift_jis', 'big5', 'euc-kr', undefined, 'gbk'];

/** Decodes characters written by number: `\\U+XXXX`, `\\M+nXXXX`, and the `\\xNN` of some writers. */
export function decodeUnicode(text: string): string {
  if (!text.includes('\\')) return text;
  return text
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/\\M\+([1-5])([0-9A-Fa-f]{4})/g, (whole, n: string, hex: string) => {
      const page = MULTIBYTE[Number(n)];
      if (!page) return whole;
      const bytes = Uint8Array.of(parseInt(hex.slice(0, 2), 16), parseInt(hex.slice(2), 16));
      return new TextDecoder(page).decode(bytes);
    })
    .replace(/\\x([89A-Fa-f][0-9A-Fa-f])/g, (_, hex: string) =>
      new TextDecoder('windows-1252').decode(Uint8Array.of(parseInt(hex, 16))),
    );
}
