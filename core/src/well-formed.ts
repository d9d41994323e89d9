/**
 * A text without halves of characters, which UTF-8 has no bytes for: each becomes U+FFFD. Texts of files have them where
 * an escape states only one half.
 */
export function wellFormed(text: string): string {
  return text.replace(/\p{Surrogate}/gu, '\ufffd');
}

/** A text without the characters of a set at its end, in one pass: a pattern would look ahead from each of them. */
export function withoutTrailing(text: string, characters: RegExp): string {
  let end = text.length;
  while (end > 0 && characters.test(text[end - 1]!)) end--;
  return text.slice(0, end);
}
