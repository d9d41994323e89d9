import { recipeSchema } from '../recipe/schema';
import { PICTURE_DPI } from '../recipe/settings';
import { JOB_FILE_VERSION } from './upgrade';
import * as yup from 'yup';
import { LENGTH_UNITS } from '../measure/units';
import { isSheetSide, SHEET_SIDE_MM } from '../paper/sizes';
import { FRAME_MARKS } from '../paper/grid';
import { parseRule } from '../naming/rule';
import { FORMATS } from '../package/formats';
import { STANDARD_NAMES } from '../package/model';
import { NOTE_KINDS } from '../sheet/notes/model';
import { BLOCK_PLACES, CELL_KINDS } from '../sheet/title/template';
import { PACKAGE_OPTIONS } from '../package/options';
import { DXF_OPTIONS } from '../settings/exchange';
import { settingSchemas } from '../settings/schema';
import { extraFormatsSchema, destinationsSchema, packageParts } from './package-parts';
import { MAX_INBOXES, TAKES_OPTIONS } from '../inbox/inbox';
import { MAX_VERSION_MARK } from '../inbox/newer-version';
import { byId, id, listOf, MAX_TEXT, number, only, ownListOf, text } from '../shapes';

function readable(value: unknown): boolean {
  return typeof value !== 'string' || parseRule(value).ok;
}

/** What is wrong with a text with fields. */
function ruleProblem(path: string, value: unknown): string {
  const rule = parseRule(String(value));
  return `${path}: ${rule.ok ? '' : rule.problem.sentence}`;
}

const texts = yup
  .mixed<Record<string, string>>()
  .test('texts', '${path} must be an object of texts', (value) => value === undefined || isTexts(value))
  .default({});

/** A list of the given number of numbers, or one fixed word. */
function numbersOr(count: number, word: string) {
  const valid = (value: unknown): boolean =>
    value === word || (Array.isArray(value) && value.length === count && value.every((item) => Number.isFinite(item)));
  return yup
    .mixed()
    .test('numbers', `\${path} must be ${count} numbers or "${word}"`, (value) => value === undefined || valid(value));
}

const paper = yup
  .mixed()
  .test(
    'paper',
    `\${path} must be { "name", "orientation" } or { "size": [width, height] } with sides of ${SHEET_SIDE_MM.min} to ${SHEET_SIDE_MM.max} mm`,
    (value) => value === undefined || isPaper(value),
  );

/** A list of at least one text; absent: not stated. */
function someOf(item: yup.StringSchema<string>) {
  return yup.array().strict().of(item).min(1).max(50).default(undefined);
}

const pointSchema = yup.array().strict().of(number.required()).length(2).required();

/** A view as job files and the server take it. */
export const viewSchema = only({
  id,
  drawing: id,
  space: text.default('model'),
  window: numbersOr(4, 'extents').default('extents'),
  rotation: number.min(-360).max(360),
  scale: text.default('fit'),
  at: numbersOr(2, 'centre').default('centre'),
  layersOff: listOf(text.required()),
  label: text.default(''),
  number: text.max(20),
  outline: yup.array().strict().of(pointSchema).min(3).max(5000).default(undefined),
  border: yup.boolean().strict().oneOf([true]),
  lettering: only({ scale: text.min(1).required(), layers: yup.array().strict().of(text.min(1).required()) }).default(
    undefined,
  ),
  colour: text.oneOf(['full', 'greys', 'black']),
  screen: number.min(5).max(100),
  pictureDpi: number.integer().min(PICTURE_DPI.min).max(PICTURE_DPI.max),
  locked: yup.boolean().strict().oneOf([true]),
});

export const marksSchema = yup
  .array()
  .strict()
  .of(text.oneOf([...FRAME_MARKS]).required())
  .default(undefined);

export const titleBlockSchema = only({ template: text.min(1), fields: texts });

const colour = number.integer().min(0).max(0xffffff);
const font = text.min(1);
const mm = number.min(0).max(2000);
const cell = only({
  left: mm,
  right: mm,
  width: mm,
  bottom: mm,
  top: mm,
  height: mm,
  kind: text.oneOf([...CELL_KINDS]),
  caption: text.max(60),
  text: text
    .max(300)
    .test('rule', ({ path, value }: { path: string; value: unknown }) => ruleProblem(path, value), readable),
  size: number.min(0.5).max(50),
  font,
  align: text.oneOf(['left', 'centre', 'right']),
  required: yup.boolean().strict(),
  grows: text.oneOf(['up', 'down']),
  drawing: text.min(1),
  block: text.min(1),
  plain: yup.boolean().strict().oneOf([true]),
});

/** A title-block template of the office's own. */
export const templateSchema = only({
  id,
  name: text.required(),
  place: text.oneOf([...BLOCK_PLACES]).required(),
  width: number.min(20).max(400),
  height: number.min(5).max(400),
  cells: yup.array().strict().of(cell).max(200).required(),
});

export const revisionSchema = only({
  index: text.required(),
  date: text.matches(/^\d{4}-\d{2}-\d{2}$/, '${path} must be a date as YYYY-MM-DD').required(),
  text: text.default(''),
  author: text.max(100),
});

/** A field of sheets of the project's own. */
export const sheetFieldSchema = only({
  name: text
    .matches(/^[a-z][a-z0-9-]*$/i, '${path} must be letters, digits and hyphens')
    .max(40)
    .required(),
  caption: text.max(60).required(),
  kind: text.oneOf(['text', 'choice', 'date']).required(),
  choices: yup.array().strict().of(text.min(1).max(100).required()).max(200),
  required: yup.boolean().strict().oneOf([true]),
});

export const textStyleSchema = only({
  id,
  name: text.min(1).max(60).required(),
  size: number.min(0.5).max(100).required(),
  font: font.required(),
  colour,
});

/** Left, bottom, right, top, mm. */
export const marginsSchema = yup.array().strict().of(number.min(0).max(200).required()).length(4);

export const plotterSchema = only({
  id,
  name: text.min(1).max(60).required(),
  margins: marginsSchema.required(),
});

const side = number.min(SHEET_SIDE_MM.min).max(SHEET_SIDE_MM.max).required();
export const paperSchema = only({ name: text.min(1).max(60).required(), short: side, long: side });

/** A typeface of the office's own; `hash` is there where its file is in the store. */
export const typefaceSchema = only({
  id,
  name: text.min(1).max(200).required(),
  file: text.min(1).max(500).required(),
  face: number.integer().min(0).max(63),
  hash: text.matches(/^[0-9a-f]{64}$/, '${path} must be a SHA-256 in hexadecimal digits'),
  embedding: text.oneOf(['whole', 'none']),
  asked: yup.array().strict().of(text.min(1).max(200).required()).max(100).default([]),
});

const hash = text.matches(/^#[0-9a-f]{6}$/i, '${path} must be a colour such as #1a4d8f');
const weight = number.min(0).max(100);

/** A pen schedule: rules from how lines are drawn to how they print. */
export const penScheduleSchema = only({
  id,
  name: text.min(1).max(100).required(),
  rules: listOf(
    only({
      layer: text.min(1),
      drawing: text.min(1),
      view: text.min(1),
      ofColour: hash,
      ofWeight: yup.array().strict().of(weight.required()).length(2).default(undefined),
      ofLineType: text.min(1),
      weight: weight.max(10),
      colour: hash,
      screen: number.min(0).max(100),
      dashes: yup.array().strict().of(weight.required()).max(20).default(undefined),
      ends: text.oneOf(['round', 'square']),
      hidden: yup.boolean().strict().oneOf([true]),
    }),
  ),
});

/** A project: its own facts and settings. */
export const projectSchema = only({
  number: text.default(''),
  name: text.default(''),
  client: text.default(''),
  fields: texts,
  titleBlocks: ownListOf(templateSchema),
  sheetFields: ownListOf(sheetFieldSchema),
  textStyles: ownListOf(textStyleSchema),
  plotters: ownListOf(plotterSchema),
  plotter: text,
  papers: ownListOf(paperSchema),
  typefaces: ownListOf(typefaceSchema),
  penSchedules: ownListOf(penScheduleSchema),
  people: ownListOf(
    only({
      id,
      name: text.min(1).max(100).required(),
      firm: text.max(100),
      mail: text.min(1).max(254).required(),
      purposes: someOf(text.min(1).max(100).required()),
      groups: someOf(text.min(1).max(200).required()),
      formats: someOf(text.oneOf(Object.keys(FORMATS)).required()),
    }),
  ),
  inboxes: ownListOf(
    only({
      id,
      name: text.min(1).max(100).required(),
      server: text.min(1).max(100),
      folder: text.max(500),
      takes: text.oneOf(TAKES_OPTIONS.flatMap(({ value }) => value ?? [])),
    }),
    MAX_INBOXES,
  ),
  versionMark: text.max(MAX_VERSION_MARK),
  checks: byId(text.oneOf(['stop', 'warning', 'note', 'off']).required()),
  exchanges: ownListOf(only({ id, name: text.min(1).max(200).required(), ...settingSchemas(DXF_OPTIONS) })),
  namings: ownListOf(
    only({
      id,
      name: text.min(1).max(200).required(),
      file: text.max(500),
      folder: text.max(500),
      bundle: text.max(500),
    }),
  ),
});

const place = yup.array().strict().of(number.min(-20_000).max(20_000).required()).length(2);

/** A note on a sheet. */
export const noteSchema = only({
  id,
  kind: text.oneOf([...NOTE_KINDS]).required(),
  at: place.required(),
  to: place.default(undefined),
  text: text.max(100_000),
  style: text.min(1).max(100),
  refers: only({ sheet: id, view: text.min(1) }).default(undefined),
  drawing: text.min(1),
  size: number.min(0.5).max(100),
  width: number.min(0).max(20_000),
  weight: number.min(0.05).max(5),
});

/** A sheet as job files take it. */
export const sheetSchema = only({
  id,
  number: text.default(''),
  title: text.default(''),
  group: text.default(''),
  paper,
  frame: text.oneOf(['iso5457', 'plain', 'none']).default('iso5457'),
  margins: marginsSchema.default(undefined),
  marks: marksSchema,
  titleBlock: titleBlockSchema.default(undefined),
  revision: revisionSchema.default(undefined),
  revisions: yup.array().strict().of(revisionSchema).default(undefined),
  fields: yup
    .mixed<Record<string, string>>()
    .test('texts', '${path} must be an object of texts', (value) => value === undefined || isTexts(value)),
  views: listOf(viewSchema),
  notes: yup.array().strict().of(noteSchema).default(undefined),
  from: only({ drawing: id, layout: id }).default(undefined),
});

/** Tiles take up to a third of a small paper for their overlap. */
export const tilesSchema = only({ paper: paper.required(), overlap: number.min(0).max(60).default(15) }).default(
  undefined,
);

export const packageSchema = only({
  id,
  name: text.required(),
  recipe: text.default(''),
  order: listOf(text.required()),
  ...settingSchemas(PACKAGE_OPTIONS),
  names: only({
    file: text.default(STANDARD_NAMES.file),
    folder: text.default(STANDARD_NAMES.folder),
    bundle: text.default(STANDARD_NAMES.bundle),
  }),
  tiles: tilesSchema,
  extraFormats: extraFormatsSchema,
  destinations: destinationsSchema,
  ...packageParts,
});

/** A group of sheets, with what its sheets have unless they deviate. */
export const groupSchema = only({
  id,
  name: text.min(1).required(),
  sheets: only({
    paper,
    frame: text.oneOf(['iso5457', 'plain', 'none']),
    marks: marksSchema,
    template: text.min(1),
  }).default(undefined),
});

/** A named rectangle in a drawing's model, drawing units. */
export const namedWindowSchema = only({
  name: text.trim().min(1, 'A window needs a name').max(100).required(),
  window: yup.array().strict().of(number.required()).length(4).required(),
});

/** The job file. */
export const jobFileSchema = only({
  folvex: number.oneOf([JOB_FILE_VERSION]).required(),
  project: projectSchema.omit(['penSchedules']).noUnknown().strict(),
  drawings: listOf(
    only({
      id,
      file: id,
      unit: text.oneOf([...LENGTH_UNITS]),
      windows: yup.array().strict().of(namedWindowSchema).default(undefined),
    }),
  ),
  penSchedules: yup.array().strict().of(penScheduleSchema).default(undefined),
  groups: listOf(groupSchema),
  recipes: listOf(recipeSchema),
  sheets: listOf(sheetSchema),
  packages: listOf(packageSchema),
});

function isTexts(value: unknown): boolean {
  return (
    typeof value === 'object' &&
    value !== null &&
    !Array.isArray(value) &&
    Object.values(value).every((v) => typeof v === 'string' && v.length <= MAX_TEXT)
  );
}

function isPaper(value: unknown): boolean {
  if (typeof value !== 'object' || value === null) return false;
  const keys = Object.keys(value).sort().join();
  const paper = value as { name?: unknown; orientation?: unknown; size?: unknown };
  if (keys === 'name' || keys === 'name,orientation') {
    const orientation = paper.orientation ?? 'landscape';
    return typeof paper.name === 'string' && (orientation === 'landscape' || orientation === 'portrait');
  }
  return keys === 'size' && Array.isArray(paper.size) && paper.size.length === 2 && paper.size.every(isSheetSide);
}
