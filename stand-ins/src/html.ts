/** A text as it stands in HTML. */
export function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (character) => `&#${character.codePointAt(0)};`);
}
