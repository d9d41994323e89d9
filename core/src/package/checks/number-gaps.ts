import { compareNumbers } from '../order';
import { sheetsOf, sheetsOfProject, defineCheck, type FoundProblem } from '../finding';

/** Longer gaps are taken for the beginning of another series. */
const MAX_GAP = 5;

/** Numbers that count up leave some out. */
export const numberGaps = defineCheck(
  {
    'number.gap': ['note', 'numbers that leave some out while they count up'],
  },
  (input) => {
    const numbers = sheetsOf(input)
      .map(({ number }) => number)
      .filter(Boolean)
      .sort(compareNumbers);
    const all = new Set(sheetsOfProject(input).map(({ number }) => number.toLowerCase()));
    return numbers.flatMap((number, i): FoundProblem<'number.gap'>[] => {
      const [before, after] = [splitNumber(number), splitNumber(numbers[i + 1] ?? '')];
      if (!before || !after || before.letters !== after.letters || before.digits.length !== after.digits.length)
        return [];
      const [from, to] = [Number(before.digits), Number(after.digits)];
      // Another hundred is another kind of sheet (common practice).
      if (to - from < 2 || to - from > MAX_GAP + 1 || Math.floor(from / 100) !== Math.floor(to / 100)) return [];
      const missing = Array.from({ length: to - from - 1 }, (_, k) => {
        return before.letters + String(from + 1 + k).padStart(before.digits.length, '0');
      });
      const elsewhere = missing.filter((one) => all.has(one.toLowerCase()));
      const sentence =
        elsewhere.length === missing.length
          ? `${missing.join(', ')} of the project ${missing.length > 1 ? 'are' : 'is'} not in this package, though ${number} and ${numbers[i + 1]} are; add them if they were forgotten.`
          : `Between ${number} and ${numbers[i + 1]} there is no ${missing.join(', ')}; check whether a sheet is missing.`;
      return [{ code: 'number.gap', sentence, place: {} }];
    });
  },
);

function splitNumber(number: string): { letters: string; digits: string } | undefined {
  const match = /^(.*?)(\d+)$/.exec(number);
  return match ? { letters: match[1]!, digits: match[2]! } : undefined;
}
