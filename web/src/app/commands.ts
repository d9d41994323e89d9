/** An entry of the quick search: something to open, or an action. */
export interface Command {
  key: string;
  kind: 'place' | 'action' | 'package' | 'sheet' | 'drawing';
  words: string;
  /** True where it is listed before anything is typed. */
  always?: boolean;
  run(): void;
}

/** A longer list is narrowed by typing, not read. */
const MOST_FOUND = 40;

/** The commands whose name or kind contains every word of a text; names that begin with it come first. */
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
