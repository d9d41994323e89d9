import * as yup from 'yup';
import {
  DESTINATION_KINDS,
  MAX_DESTINATIONS,
  type Destination,
  type DestinationKind,
} from '../package/destination-kinds';
import { EXTRA_FORMATS } from '../package/formats';
import { EXTRA_FORMAT_OPTIONS, PAGE_OPTIONS } from '../package/options';
import { settingSchemas } from '../settings/schema';
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
  ...settingSchemas(EXTRA_FORMAT_OPTIONS),
}).default(undefined);

/** A place that files are delivered to. */
export const destinationSchema = yup.lazy((value: unknown) => {
  const kinds = Object.keys(DESTINATION_KINDS) as DestinationKind[];
  const kind = (value as Partial<Destination> | null)?.kind;
  const { settings } = DESTINATION_KINDS[kinds.find((one) => one === kind) ?? 'folder'];
  return only({
    kind: text.oneOf(kinds).required(),
    ...settingSchemas(settings),
  }).required();
});

/** Where a package is delivered to. */
export const destinationsSchema = yup.array(destinationSchema).min(1).max(MAX_DESTINATIONS).default(undefined);

/** What a package may have beyond its sheets, names and single values. */
export const packageParts = {
  pages: byId(
    only({
      ...settingSchemas(PAGE_OPTIONS),
      paper: only({
        name: text.min(1).max(60).required(),
        orientation: text.oneOf(['landscape', 'portrait']).default('landscape'),
      }).default(undefined),
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
