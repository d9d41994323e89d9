/** Something that the palette goes to or does. */
export interface Command {
  key: string;
  kind: 'place' | 'action' | 'package' | 'sheet' | 'drawing';
  words: string;
  /** True where it is offered before anything is typed. */
  always?: boolean;
  run(): void;
}

/** Nobody reads a longer list; another letter narrows it. */
const MOST_FOUND = 40;

/** Those that have all words of a text in their name or kind; names that begin with the text come first. */
export function foundCommands(commands: readonly Command[], text: string): Command[] {
  const wanted = text.trim().toLowerCase();
  if (wanted === '') return commands.filter(({ always }) => always);
  const words = wanted.split(/\s+/);
  const found = commands.filter(({ words: name, kind }) => {
    const all = `${name} ${kind}`.toLowerCase();
    return words.every((word) => all.includes(word));
  });
  const begins = ({ words: name }: Command): number => (name.toLowerCase().startsWith(wanted) ? 0 : 1);
  return found.sort((a, b) => begins(a) - begins(b)).slice(0, MOST_FOUND);
}
