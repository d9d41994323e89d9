import * as yup from 'yup';
import { EXTRA_FORMATS } from '../package/formats';
import { byId, id, number, only, ownListOf, text } from '../shapes';

const formats = yup.array().strict().of(text.oneOf(EXTRA_FORMATS).required()).max(EXTRA_FORMATS.length);

const stamps = yup
  .array()
  .strict()
  .of(
    only({
      text: text.min(1).max(300).required(),
      at: text.oneOf(['top', 'bottom', 'middle']).required(),
      size: number.min(1).max(100).required(),
      colour: number.integer().min(0).max(0xffffff).required(),
      under: yup.boolean().strict().oneOf([true]),
    }).required(),
  )
  .max(10)
  .default(undefined);

/** What a package writes besides PDF. */
export const extraFormatsSchema = only({
  formats: formats.required(),
  dpi: number.integer().min(36).max(1200),
  apart: yup.boolean().strict().oneOf([true]),
}).default(undefined);

/** Where a package's files are delivered to. */
export const destinationSchema = only({
  folder: text.max(500).default(''),
  onConflict: text.oneOf(['replace', 'both', 'stop']).default('stop'),
}).default(undefined);

/** What a package may say beyond its sheets, names and files. */
export const packageParts = {
  blanks: text.oneOf(['stop', 'skip']),
  purpose: text.max(200),
  date: text.matches(/^(\d{4}-\d{2}-\d{2})?$/, '${path} must be a date as YYYY-MM-DD'),
  notes: text.max(5000),
  pages: byId(
    only({
      skip: yup.boolean().strict().oneOf([true]),
      colour: text.oneOf(['full', 'greys', 'black']),
      paper: only({
        name: text.min(1).max(60).required(),
        orientation: text.oneOf(['landscape', 'portrait']).default('landscape'),
      }).default(undefined),
      copies: number.integer().min(1).max(99),
      extraFormats: formats.default(undefined),
      stamps,
    }).required(),
  ),
  extras: ownListOf(
    only({
      id,
      kind: text.oneOf(['divider', 'index', 'space']).required(),
      drawing: text.max(200),
      space: text.max(300),
      number: text.max(60).default(''),
      title: text.max(200).default(''),
    }),
  ),
  members: only({
    groups: yup.array().strict().of(text.min(1).required()).max(500).required(),
    without: yup.array().strict().of(text.min(1).max(200).required()).max(50).default(undefined),
  }).default(undefined),
  after: byId(text.min(1).required()),
  stamps,
  accepted: yup
    .array()
    .strict()
    .of(only({ finding: text.min(1).max(2000).required(), reason: text.min(1).max(500).required() }).required())
    .max(1000)
    .default(undefined),
};
