/** A text without trailing characters of a set, in one pass: a regular expression would try again from each of them. */
export function withoutTrailing(text: string, characters: RegExp): string {
  let end = text.length;
  while (end > 0 && characters.test(text[end - 1]!)) end--;
  return text.slice(0, end);
}
