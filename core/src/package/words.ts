/** Whether the number or title of a sheet has all words of a text, letter case aside. */
export function matchesText(text: string): (sheet: { number: string; title: string }) => boolean {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return ({ number, title }) => {
    const said = `${number} ${title}`.toLowerCase();
    return words.every((word) => said.includes(word));
  };
}

/** How many things a sentence names. */
const MOST_NAMED = 3;

/** The first of some names, for a sentence: `A-101, A-102, A-103 and others`. */
export function firstInWords(names: readonly string[]): string {
  return names.slice(0, MOST_NAMED).join(', ') + (names.length > MOST_NAMED ? ' and others' : '');
}
