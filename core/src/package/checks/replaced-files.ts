import type { ConflictPolicy } from '../destination-kinds';
import { resolveDestinations } from '../destination';
import { defineCheck, type FoundProblem, type Severity } from '../finding';

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

/** What becomes of files that are there; `name`: what a new one next to the first would be called. */
function wordsFor(policy: ConflictPolicy, name: string | undefined): readonly [one: string, several: string] {
  if (policy !== 'both' || name === undefined) return WORDS[policy];
  return [
    `it stays, and a new one that differs becomes ${name}`,
    `they stay, and new ones that differ get numbers, such as ${name}`,
  ];
}

type Code = 'destination.rule' | 'destination.there';

/** Files that are at a destination already. */
export const replacedFiles = defineCheck(
  {
    'destination.rule': ['stop', 'a rule for the folder delivered to that cannot be read'],
    'destination.there': [
      'warning',
      'files that are at the destination already; a stop under the conflict policy `stop`',
    ],
  },
  (input, plan) => {
    const resolved = resolveDestinations(input);
    return (input.package.destinations ?? []).flatMap((destination, at): FoundProblem<Code>[] => {
      const outcome = resolved[at]!;
      if (!outcome.ok) return [{ ...outcome.problem, code: 'destination.rule', place: { path: `destinations.${at}` } }];
      if (!('onConflict' in destination)) return [];
      const there = plan.files.map(({ path }) => path).filter((path) => input.there?.[at]?.has(path));
      if (there.length === 0) return [];
      const [one, several] = wordsFor(destination.onConflict, input.there?.[at]?.get(there[0]!));
      const where = resolved.length > 1 ? `destination ${at + 1}` : 'the destination';
      const more = there.length > NAMED ? ` and ${there.length - NAMED} more` : '';
      const sentence =
        there.length === 1
          ? `${there[0]} is at ${where} already; ${one}.`
          : `${there.length} files are at ${where} already (${there.slice(0, NAMED).join(', ')}${more}); ${several}.`;
      const fix = { words: 'Keep both', destination: { ...destination, onConflict: 'both' as const }, at };
      return [
        {
          ...{ code: 'destination.there', severity: WEIGHT[destination.onConflict], sentence, place: {} },
          ...(destination.onConflict === 'stop' && { fix }),
        },
      ];
    });
  },
);
