import type { ConflictPolicy } from '../destination-kinds';
import { resolveDestination } from '../destination';
import { defineCheck, type Severity } from '../finding';

const WEIGHT: Readonly<Record<ConflictPolicy, Severity>> = {
  ...{ stop: 'stop', both: 'note', rename: 'note', replace: 'warning' },
};
const WORDS: Readonly<Record<ConflictPolicy, readonly [one: string, several: string]>> = {
  stop: [
    'keep both, replace it, or deliver to another folder',
    'keep both, replace them, or deliver to another folder',
  ],
  replace: ['it is replaced where it differs', 'they are replaced where they differ'],
  rename: ['it is renamed with its date if it differs', 'those that differ are renamed with their dates'],
  both: ['it stays, and a new one that differs gets a number', 'they stay, and new ones that differ get numbers'],
};
const NAMED = 3;

/** Files that are at the destination already. */
export const replacedFiles = defineCheck(
  {
    'destination.rule': ['stop', 'a rule for the folder delivered to that cannot be read'],
    'destination.there': [
      'warning',
      'files that are at the destination already; a stop under the conflict policy `stop`',
    ],
  },
  (input, plan) => {
    const { destination } = input.package;
    const resolved = resolveDestination(input);
    if (!destination || !resolved) return [];
    if (!resolved.ok) {
      return [{ ...resolved.problem, code: 'destination.rule', place: { path: 'destination' } }];
    }
    const there = plan.files.map(({ path }) => path).filter((path) => input.there?.has(path));
    if (there.length === 0) return [];
    const [one, several] = WORDS[destination.onConflict];
    const more = there.length > NAMED ? ` and ${there.length - NAMED} more` : '';
    const sentence =
      there.length === 1
        ? `${there[0]} is at the destination already; ${one}.`
        : `${there.length} files are at the destination already (${there.slice(0, NAMED).join(', ')}${more}); ${several}.`;
    const fix = { words: 'Keep both', destination: { ...destination, onConflict: 'both' as const } };
    return [
      {
        ...{ code: 'destination.there', severity: WEIGHT[destination.onConflict], sentence, place: {} },
        ...(destination.onConflict === 'stop' && { fix }),
      },
    ];
  },
);
