import type { PenRule } from '@folvex/core';
import type { Column, Row } from '../../forms/rows';

const HASH = { pattern: /^#[0-9a-f]{6}$/i, patternWords: 'six hexadecimal digits such as #1a4d8f' };
const HEAVIEST_MM = 100;
const text = (key: string, caption: string, share = 1): Column => ({
  key,
  caption,
  kind: 'text',
  optional: true,
  share,
});
const length = { pattern: /^\d+([.,]\d+)?$/, patternWords: 'a length in mm' };

export const RULE_COLUMNS: readonly Column[] = [
  { ...text('layer', 'Layer like', 2), repeats: true },
  text('drawing', 'Drawing like'),
  text('view', 'View like'),
  { ...text('ofColour', 'Drawn colour'), ...HASH },
  { ...text('from', 'Drawn from, mm'), ...length },
  { ...text('to', 'to, mm'), ...length },
  text('ofLineType', 'Line type like'),
  { ...text('weight', 'Prints at, mm'), ...length },
  { ...text('colour', 'Colour'), ...HASH },
  { ...text('screen', 'Screen, %'), pattern: /^(100|\d{1,2})$/, patternWords: 'per cent from 0 to 100' },
  {
    ...text('dashes', 'Dashes, mm'),
    pattern: /^(-|\d+([.]\d+)?( \d+([.]\d+)?)*)$/,
    patternWords: 'lengths with spaces between, or - for continuous',
  },
  {
    key: 'ends',
    caption: 'Ends',
    kind: 'choice',
    choices: [
      ['', 'as drawn'],
      ['round', 'round'],
      ['square', 'square'],
    ],
  },
  { key: 'printed', caption: 'Printed', kind: 'check', share: 0.6 },
];

export const BLANK_RULE: Row = {
  ...Object.fromEntries(RULE_COLUMNS.map(({ key }) => [key, ''])),
  layer: 'A-*',
  printed: true,
};

export function ruleRow(rule: PenRule): Row {
  const { layer, drawing, view, ofColour, ofWeight, ofLineType, weight, colour, screen, dashes, ends, hidden } = rule;
  const said = (value: string | number | undefined): string => (value === undefined ? '' : String(value));
  return {
    layer: said(layer),
    drawing: said(drawing),
    view: said(view),
    ofColour: said(ofColour),
    from: said(ofWeight?.[0]),
    to: ofWeight && ofWeight[1] < HEAVIEST_MM ? said(ofWeight[1]) : '',
    ofLineType: said(ofLineType),
    weight: said(weight),
    colour: said(colour),
    screen: said(screen),
    dashes: dashes ? dashes.join(' ') || '-' : '',
    ends: said(ends),
    printed: !hidden,
  };
}

export function ruleOfRow(row: Row): PenRule {
  const words = (key: string): string => String(row[key] ?? '').trim();
  const number = (key: string): number => Number(words(key).replace(',', '.'));
  const ends = words('ends');
  return {
    ...(words('layer') && { layer: words('layer') }),
    ...(words('drawing') && { drawing: words('drawing') }),
    ...(words('view') && { view: words('view') }),
    ...(words('ofColour') && { ofColour: words('ofColour').toLowerCase() }),
    ...((words('from') || words('to')) && { ofWeight: [number('from'), words('to') ? number('to') : HEAVIEST_MM] }),
    ...(words('ofLineType') && { ofLineType: words('ofLineType') }),
    ...(words('weight') && { weight: number('weight') }),
    ...(words('colour') && { colour: words('colour').toLowerCase() }),
    ...(words('screen') && { screen: number('screen') }),
    ...(words('dashes') && { dashes: words('dashes') === '-' ? [] : words('dashes').split(/\s+/).map(Number) }),
    ...((ends === 'round' || ends === 'square') && { ends }),
    ...(row['printed'] === false && { hidden: true }),
  };
}
