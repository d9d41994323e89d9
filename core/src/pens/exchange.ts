import Papa from 'papaparse';
import type { PenRule } from './schedule';

/** Columns of a schedule as CSV, in their order. */
const COLUMNS = [
  'layer',
  'drawing',
  'view',
  'of-colour',
  'of-weight-from',
  'of-weight-to',
  'of-line-type',
  'weight',
  'colour',
  'screen',
  'dashes',
  'ends',
  'printed',
] as const;
type Column = (typeof COLUMNS)[number];

/** What a spreadsheet would take for a formula is written with an apostrophe before it, which is read back without. */
const FORMULA = /^'*[=+\-@\t\r].+/;
const ESCAPED = /^'(?='*[=+\-@\t\r].)/;

/** The rules of a schedule as CSV, a row each in their order, lengths in mm. */
export function rulesToCsv(rules: readonly PenRule[]): string {
  const rows = rules.map((rule): Record<Column, string | number> => ({
    layer: rule.layer ?? '',
    drawing: rule.drawing ?? '',
    view: rule.view ?? '',
    'of-colour': rule.ofColour ?? '',
    'of-weight-from': rule.ofWeight?.[0] ?? '',
    'of-weight-to': rule.ofWeight?.[1] ?? '',
    'of-line-type': rule.ofLineType ?? '',
    weight: rule.weight ?? '',
    colour: rule.colour ?? '',
    screen: rule.screen ?? '',
    dashes: rule.dashes ? rule.dashes.join(' ') || '-' : '',
    ends: rule.ends ?? '',
    printed: rule.hidden ? 'no' : '',
  }));
  return Papa.unparse(rows, { columns: [...COLUMNS], newline: '\n', escapeFormulae: FORMULA }) + '\n';
}

/** Rules read from CSV; what cannot be read is reported with its row, and then no rules are returned. */
export function rulesFromCsv(text: string): { ok: true; rules: PenRule[] } | { ok: false; sentence: string } {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, '').trim(), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim().toLowerCase(),
  });
  const unknown = (parsed.meta.fields ?? []).filter((name) => !(COLUMNS as readonly string[]).includes(name));
  if (unknown.length > 0) {
    return { ok: false, sentence: `No column is called ${unknown.join(', ')}; the columns are ${COLUMNS.join(', ')}.` };
  }
  const rules: PenRule[] = [];
  for (const [i, row] of parsed.data.entries()) {
    const value = (column: Column): string => (row[column] ?? '').trim().replace(ESCAPED, '');
    const wrong = NUMBERS.find((column) => value(column) !== '' && !(Number(value(column).replace(',', '.')) >= 0));
    if (wrong)
      return { ok: false, sentence: `Row ${i + 2}: ${wrong} is a number, not "${value(wrong)}"; correct it there.` };
    const faded = COLOURS.find((column) => value(column) !== '' && !/^#?[0-9a-f]{6}$/i.test(value(column)));
    if (faded) {
      return {
        ok: false,
        sentence: `Row ${i + 2}: ${faded} is written like #1a4d8f, not "${value(faded)}"; correct it there.`,
      };
    }
    rules.push(ruleOf(value));
  }
  return { ok: true, rules };
}

const NUMBERS: readonly Column[] = ['of-weight-from', 'of-weight-to', 'weight', 'screen'];
const COLOURS: readonly Column[] = ['of-colour', 'colour'];
const HEAVIEST_MM = 100;

function ruleOf(value: (column: Column) => string): PenRule {
  const number = (column: Column): number => Number(value(column).replace(',', '.'));
  const hash = (text: string): string => `#${text.replace('#', '').toLowerCase()}`;
  const [from, to] = [value('of-weight-from'), value('of-weight-to')];
  const dashes = value('dashes');
  const ends = value('ends');
  return {
    ...(value('layer') && { layer: value('layer') }),
    ...(value('drawing') && { drawing: value('drawing') }),
    ...(value('view') && { view: value('view') }),
    ...(value('of-colour') && { ofColour: hash(value('of-colour')) }),
    ...((from || to) && { ofWeight: [from ? number('of-weight-from') : 0, to ? number('of-weight-to') : HEAVIEST_MM] }),
    ...(value('of-line-type') && { ofLineType: value('of-line-type') }),
    ...(value('weight') && { weight: number('weight') }),
    ...(value('colour') && { colour: hash(value('colour')) }),
    ...(value('screen') && { screen: number('screen') }),
    ...(dashes && { dashes: dashes === '-' ? [] : dashes.split(/\s+/).map(Number) }),
    ...((ends === 'round' || ends === 'square') && { ends }),
    ...(/^(no|false|0)$/i.test(value('printed')) && { hidden: true }),
  };
}
