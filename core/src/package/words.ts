/** Whether the number or title of a sheet has all words of a text, letter case aside. */
export function matchesText(text: string): (sheet: { number: string; title: string }) => boolean {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return ({ number, title }) => {
    const said = `${number} ${title}`.toLowerCase();
    return words.every((word) => said.includes(word));
  };
}
