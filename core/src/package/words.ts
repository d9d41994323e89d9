/** Whether the number or title of a sheet has all words of a text, letter case aside. */
export function matchesText(text: string): (sheet: { number: string; title: string }) => boolean {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return ({ number, title }) => {
    const said = `${number} ${title}`.toLowerCase();
    return words.every((word) => said.includes(word));
  };
}

/** `1 byte`, `814 bytes`, `79 kB`, `4.2 MB`, `1.3 GB`. */
export function bytesInWords(bytes: number): string {
  if (bytes < 1000) return bytes === 1 ? '1 byte' : `${bytes} bytes`;
  if (bytes < 1e6) return `${Math.round(bytes / 1000)} kB`;
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}

/** How many things a sentence names. */
const MOST_NAMED = 3;

/** The first of some names, for a sentence: `A-101, A-102, A-103 and others`. */
export function firstInWords(names: readonly string[]): string {
  return names.slice(0, MOST_NAMED).join(', ') + (names.length > MOST_NAMED ? ' and others' : '');
}
