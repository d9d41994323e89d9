import type { TransferServer } from '@folvex/contract';
import {
  CHOSEN_FONTS,
  DXF_OPTIONS,
  FORMATS,
  freeId,
  MAIL_ADDRESS,
  SHEET_SIDE_MM,
  TAKES_OPTIONS,
  type Inbox,
  type KeptExchange,
  type NoteStyle,
  type OwnPaper,
  type OwnTypeface,
  type Contact,
  type Plotter,
  type SheetField,
} from '@folvex/core';
import { fontInWords } from '../../ui/words';
import type { Column, Row, Value } from '../../forms/rows';

/** The typefaces that text styles and title blocks choose from: the shipped ones and the office's own. */
export function fontOptions(own: readonly OwnTypeface[] = []): readonly (readonly [value: string, words: string])[] {
  return [
    ...CHOSEN_FONTS.map((id) => [id, fontInWords(id)] as const),
    ...own.map(({ id, name }) => [id, name] as const),
  ];
}

const NAME: Column = { key: 'name', caption: 'Name', kind: 'text', share: 3 };
const mm = (key: string, caption: string, least: number, most: number): Column => ({
  key,
  caption: `${caption}, mm`,
  kind: 'number',
  least,
  most,
});

export const FIELD_COLUMNS: readonly Column[] = [
  {
    key: 'name',
    caption: 'Name in rules',
    kind: 'text',
    pattern: /^[a-z][a-z0-9-]*$/i,
    patternWords: 'made of letters, digits and hyphens',
    share: 2,
  },
  { key: 'caption', caption: 'Caption', kind: 'text', share: 2 },
  {
    key: 'kind',
    caption: 'Kind',
    kind: 'choice',
    choices: [
      ['text', 'text'],
      ['choice', 'choice'],
      ['date', 'date'],
    ],
  },
  { key: 'choices', caption: 'Choices, with commas between', kind: 'text', optional: true, share: 3 },
  { key: 'required', caption: 'Required', kind: 'check' },
];

export function fieldRow({ name, caption, kind, choices = [], required = undefined }: SheetField): Row {
  return { name, caption, kind, choices: choices.join(', '), required: required ?? false };
}

export function fieldOf(row: Row): SheetField {
  const choices = partsOf(row['choices']);
  return {
    name: String(row['name']),
    caption: String(row['caption']),
    kind: row['kind'] as SheetField['kind'],
    ...(choices.length > 0 && { choices }),
    ...(row['required'] === true && { required: true }),
  };
}

/** The entries of a list with commas between. */
function partsOf(list: Value | undefined): string[] {
  return String(list)
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);
}

/** Commas separate the recipients of an email. */
const NO_COMMAS = { pattern: /^[^,;]*$/, patternWords: 'written without commas or semicolons' };

/** `groups`: names of the project's groups, and of those that people get and the project does not have. */
export function contactColumns(groups: readonly string[]): readonly Column[] {
  return [
    { ...NAME, ...NO_COMMAS },
    { key: 'firm', caption: 'Firm', kind: 'text', optional: true, share: 3, ...NO_COMMAS },
    {
      key: 'mail',
      caption: 'Email address',
      kind: 'text',
      pattern: MAIL_ADDRESS,
      patternWords: 'an email address',
      repeats: true,
      share: 4,
    },
    { key: 'purposes', caption: 'Issued for', kind: 'text', optional: true, share: 3 },
    {
      key: 'groups',
      caption: 'Groups',
      kind: 'several',
      choices: groups.map((name) => [name, name]),
      none: 'all',
      share: 3,
    },
    {
      key: 'formats',
      caption: 'Formats',
      kind: 'several',
      choices: Object.entries(FORMATS).map(([id, { name }]) => [id, name]),
      none: 'all',
      share: 2,
    },
  ];
}

export const NEW_CONTACT = { firm: '', mail: 'name@firm.example', purposes: '', groups: [], formats: [] };

export function contactRow({ id, name, firm = '', mail, purposes = [], groups = [], formats = [] }: Contact): Row {
  return { id, name, firm, mail, purposes: purposes.join(', '), groups, formats };
}

export function contactOf({ id, name, firm, mail, purposes, groups, formats }: Row): Contact {
  const stated = { purposes: partsOf(purposes), groups: groups as string[], formats: formats as string[] };
  const lists = Object.entries(stated).filter(([, list]) => list.length > 0);
  return {
    ...{ id: String(id), name: String(name), ...(firm && { firm: String(firm) }), mail: String(mail) },
    ...Object.fromEntries(lists),
  };
}

export function styleColumns(own?: readonly OwnTypeface[]): readonly Column[] {
  return [
    NAME,
    mm('size', 'Height of capitals', 0.5, 100),
    { key: 'font', caption: 'Typeface', kind: 'choice', choices: fontOptions(own) },
    {
      key: 'colour',
      caption: 'Colour',
      kind: 'text',
      pattern: /^#?[0-9a-f]{6}$/i,
      patternWords: 'six hexadecimal digits such as #1a4d8f',
    },
  ];
}

export function styleRow({ id, name, size, font, colour = 0 }: NoteStyle): Row {
  return { id, name, size, font, colour: `#${colour.toString(16).padStart(6, '0')}` };
}

export function styleOf(row: Row): NoteStyle {
  const colour = Number.parseInt(String(row['colour']).replace('#', ''), 16);
  const { id, name, font } = row as { id: string; name: string; font: NoteStyle['font'] };
  return { id, name, size: Number(row['size']), font, ...(colour !== 0 && { colour }) };
}

export const PAPER_COLUMNS: readonly Column[] = [
  NAME,
  mm('short', 'Short side', SHEET_SIDE_MM.min, SHEET_SIDE_MM.max),
  mm('long', 'Long side', SHEET_SIDE_MM.min, SHEET_SIDE_MM.max),
];

export function paperOfRow(row: Row): OwnPaper {
  const sides = [Number(row['short']), Number(row['long'])];
  return { name: String(row['name']), short: Math.min(...sides), long: Math.max(...sides) };
}

const EDGES = ['left', 'bottom', 'right', 'top'] as const;

export const PLOTTER_COLUMNS: readonly Column[] = [
  NAME,
  ...EDGES.map((edge) => mm(edge, edge[0]!.toUpperCase() + edge.slice(1), 0, 200)),
];

export function plotterRow({ id, name, margins }: Plotter): Row {
  return { id, name, ...Object.fromEntries(EDGES.map((edge, i) => [edge, margins[i]!])) };
}

export function plotterOfRow(row: Row): Plotter {
  const margins = EDGES.map((edge) => Number(row[edge])) as Plotter['margins'];
  return { id: String(row['id']), name: String(row['name']), margins };
}

export const NAMING_COLUMNS: readonly Column[] = [
  { ...NAME, share: 2 },
  { key: 'file', caption: 'A file a sheet', kind: 'text', share: 3 },
  { key: 'bundle', caption: 'Other files', kind: 'text', share: 3 },
  { key: 'folder', caption: 'Folder', kind: 'text', optional: true, share: 2 },
];

export const EXCHANGE_COLUMNS: readonly Column[] = [
  { ...NAME, share: 2 },
  ...DXF_OPTIONS.map(({ key, caption, options }, i): Column => ({
    ...{ key, caption, kind: 'choice', share: i === 0 ? 2 : 1 },
    choices: options.map(({ value, words }) => [value ?? '', words] as const),
  })),
];

/** In rows, an option that is not stated is blank. */
export function exchangeRow(exchange: KeptExchange): Row {
  const { id, name } = exchange;
  return { id, name, ...Object.fromEntries(DXF_OPTIONS.map(({ key }) => [key, exchange[key] ?? ''])) };
}

export function exchangeOf(row: Row): KeptExchange {
  return Object.fromEntries(Object.entries(row).filter(([, value]) => value !== '')) as unknown as KeptExchange;
}

/** `servers`: those that an inbox can be on. */
export function inboxColumns(servers: readonly TransferServer[]): readonly Column[] {
  const places = [['', 'this machine'] as const, ...servers.map(({ id, name }) => [id, name] as const)];
  return [
    NAME,
    { key: 'server', caption: 'On', kind: 'choice', choices: places, share: 2 },
    { key: 'folder', caption: 'Folder', kind: 'text', optional: true, repeats: true, share: 3 },
    {
      key: 'takes',
      caption: 'What it does',
      kind: 'choice',
      choices: TAKES_OPTIONS.map(({ value = '', words }) => [value, words] as const),
      share: 3,
    },
  ];
}

export function inboxRow({ id, name, server = '', folder = '', takes }: Inbox): Row {
  return { id, name, server, folder, takes: takes ?? '' };
}

export function inboxOf({ id, name, ...rest }: Row): Inbox {
  const stated = Object.entries(rest).filter(([, value]) => value !== '');
  return { id: String(id), name: String(name), ...Object.fromEntries(stated) };
}

/** Rows that are new get an id made of their name. */
export function withIds(rows: readonly Row[]): Row[] {
  const known = rows.flatMap((row) => (row['id'] ? [{ id: String(row['id']) }] : []));
  return rows.map((row) => {
    if (row['id']) return row;
    const id = freeId(String(row['name']), known);
    known.push({ id });
    return { ...row, id };
  });
}
