import { destinationFolder, type Meeting } from '../destination';
import type { Check, Severity } from './finding';

const WEIGHT: Readonly<Record<Meeting, Severity>> = { stop: 'stop', replace: 'warning', both: 'note' };
const WORDS: Readonly<Record<Meeting, readonly [one: string, several: string]>> = {
  stop: [
    'have both kept, have it replaced, or deliver to another folder',
    'keep both, replace them, or deliver to another folder',
  ],
  replace: ['it is replaced where it differs', 'they are replaced where they differ'],
  both: ['it stays, and a new one that differs gets a number', 'they stay, and new ones that differ get numbers'],
};
const NAMED = 3;

/** Files that are at the destination already. */
export const wouldReplace: Check = (input, plan) => {
  const { destination } = input.package;
  const folder = destinationFolder(input);
  if (!destination || !folder) return [];
  if (!folder.ok) {
    return [{ ...folder.problem, code: 'destination.rule', severity: 'stop', place: { path: 'destination' } }];
  }
  const there = plan.files.map(({ path }) => path).filter((path) => input.there?.has(path));
  if (there.length === 0) return [];
  const [one, several] = WORDS[destination.there];
  const more = there.length > NAMED ? ` and ${there.length - NAMED} more` : '';
  const sentence =
    there.length === 1
      ? `${there[0]} is at the destination already; ${one}.`
      : `${there.length} files are at the destination already (${there.slice(0, NAMED).join(', ')}${more}); ${several}.`;
  const fix = { words: 'Keep both', destination: { ...destination, there: 'both' as const } };
  return [
    {
      ...{ code: 'destination.there', severity: WEIGHT[destination.there], sentence, place: {} },
      ...(destination.there === 'stop' && { fix }),
    },
  ];
};
