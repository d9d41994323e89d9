import { foundCommands, type Command } from '../../src/app/commands';

const command = (kind: Command['kind'], words: string, always = false): Command => ({
  ...{ key: `${kind} ${words}`, kind, words, always },
  run: () => undefined,
});
const commands = [
  command('place', 'Sheets', true),
  command('action', 'Publish Permit set', true),
  command('package', 'Permit set'),
  command('sheet', 'A-101 Ground floor plan'),
  command('sheet', 'A-102 Upper floor plan'),
];
const found = (text: string): string[] => foundCommands(commands, text).map(({ words }) => words);

describe('the list of commands', () => {
  it('offers places and actions before anything is typed', () => {
    expect(found(' ')).toEqual(['Sheets', 'Publish Permit set']);
  });

  it('finds by all words, of the name or the kind, whatever their case', () => {
    expect(found('FLOOR a-101')).toEqual(['A-101 Ground floor plan']);
    expect(found('sheet plan')).toEqual(['A-101 Ground floor plan', 'A-102 Upper floor plan']);
    expect(found('roof')).toEqual([]);
  });

  it('puts names first that begin with what is typed', () => {
    expect(found('permit')).toEqual(['Permit set', 'Publish Permit set']);
  });

  it('lists no more than can be read', () => {
    const many = Array.from({ length: 3000 }, (_, i) => command('sheet', `A-${i}`));
    expect(foundCommands(many, 'a-')).toHaveLength(40);
  });
});
