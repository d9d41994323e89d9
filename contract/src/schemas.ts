import * as yup from 'yup';
import {
  groupSchema,
  LENGTH_UNITS,
  MAX_DESTINATIONS,
  marginsSchema,
  marksSchema,
  namedWindowSchema,
  noteSchema,
  projectSchema,
  PACKAGE_OPTIONS,
  packageParts,
  recipeSchema,
  revisionSchema,
  scaleProblem,
  settingChangeSchemas,
  SHEET_SIDE_MM,
  extraFormatsSchema,
  destinationSchema,
  destinationsSchema,
  tilesSchema,
  titleBlockSchema,
  viewSchema,
} from '@folvex/core';
import { MAX_PERSON_NAME } from './access';
import type { ArrivalAnswer } from './arrival-payloads';
import { text } from './limited-text';
import { WEBHOOK_TOPICS } from './webhook-payloads';

const sheetSide = yup.number().min(SHEET_SIDE_MM.min).max(SHEET_SIDE_MM.max).required();
const paper = yup.lazy((value: unknown) =>
  typeof value === 'object' && value !== null && 'size' in value
    ? yup.object({
        size: yup.tuple([sheetSide, sheetSide]).required(),
      })
    : yup.object({
        name: yup.string().required(),
        orientation: yup.string().oneOf(['landscape', 'portrait']).required(),
      }),
);

/**
 * A scale that a person typed, or one of some words; what a job file brought along is only refused once its sheet is
 * composed.
 */
export function scaleSchema(...words: string[]): yup.StringSchema {
  return yup
    .string()
    .strict()
    .max(40)
    .test('scale', (value, context) => {
      const message = value === undefined ? undefined : scaleProblem(value, words);
      return message === undefined || context.createError({ message });
    });
}
const typedScale = scaleSchema('fit');

const corners = yup.tuple([
  yup.number().required(),
  yup.number().required(),
  yup.number().required(),
  yup.number().required(),
]);

export const newSheetSchema = yup
  .object({
    drawing: text(100).min(1),
    number: text(60).trim().min(1, 'A sheet needs a number; write one such as A-101'),
    title: text(200),
    group: text(100),
    paper,
    scale: typedScale.required('A sheet needs a scale; write one such as 1:50, or fit'),
    window: corners.default(undefined),
    layersOff: yup.array().strict().of(text(300).min(1)).max(10_000).default(undefined),
  })
  .noUnknown()
  .strict();

export const newFrameSheetsSchema = yup
  .object({
    layer: text(300).min(1),
    order: yup.string().oneOf(['rows', 'columns', 'text']).required(),
    first: text(60)
      .trim()
      .when('order', ([order], schema) =>
        order === 'text' ? schema : schema.min(1, 'The first sheet needs a number; write one such as A-101'),
      ),
    group: text(100),
    fit: yup
      .object({
        by: yup.string().oneOf(['frame', 'scale', 'paper']).required(),
        scale: yup
          .string()
          .max(30)
          .when('by', { is: 'scale', then: (schema) => schema.required() }),
        paper: yup
          .string()
          .max(60)
          .when('by', { is: 'paper', then: (schema) => schema.required() }),
      })
      .noUnknown()
      .required(),
    skipped: yup.array(yup.number().integer().min(0).required()).max(100_000).required(),
  })
  .noUnknown()
  .strict();

const view = viewSchema.shape({ held: yup.number().integer().min(1), scale: typedScale });

const sheetFields = {
  number: yup.string().strict().min(1, 'A sheet needs a number').max(60),
  title: yup.string().strict().max(200),
  group: yup.string().strict().max(100),
  paper: yup.lazy((value: unknown) => (value === null || value === undefined ? yup.mixed().nullable() : paper)),
  frame: yup.string().oneOf(['iso5457', 'plain', 'none']),
  margins: marginsSchema.nullable().default(undefined),
  marks: marksSchema.nullable(),
  titleBlock: titleBlockSchema.nullable().default(undefined),
  revision: revisionSchema.nullable().default(undefined),
  revisions: yup.array().of(revisionSchema.required()).max(200).nullable().default(undefined),
  fields: yup
    .mixed<Record<string, string>>()
    .nullable()
    .test(
      'texts',
      'Values of sheet fields are texts',
      (value) => !value || Object.values(value).every((one) => typeof one === 'string'),
    ),
  views: yup.array().of(view.required()).max(200),
  notes: yup.array().of(noteSchema.required()).max(500).nullable().default(undefined),
};

export const sheetChangeSchema = yup
  .object({
    ...sheetFields,
    // Only compared with what is there.
    was: yup.object().strict().default(undefined),
    hold: yup.object({ drawing: text(100).min(1), held: yup.boolean().required() }).default(undefined),
  })
  .noUnknown()
  .strict();

export const manyChangeSchema = yup
  .object({
    ids: yup.array(text(100).min(1)).min(1).max(5000, 'At most 5,000 sheets can be changed at once.').required(),
    set: yup
      .object({
        group: sheetFields.group,
        paper: yup.lazy((value: unknown) => (value === undefined ? yup.mixed() : paper)),
        frame: sheetFields.frame,
        template: yup.string().strict().min(1).max(100).nullable(),
        margins: sheetFields.margins,
        marks: sheetFields.marks,
        fields: sheetFields.fields,
        layers: yup
          .object({
            drawing: text(100).min(1),
            on: yup.array(text(300).required()).max(5000).required(),
            off: yup.array(text(300).required()).max(5000).required(),
          })
          .default(undefined),
        scale: typedScale,
        revision: revisionSchema.default(undefined),
      })
      .noUnknown()
      .required(),
  })
  .noUnknown()
  .strict();

export const offerAnswerSchema = yup
  .object({
    offered: yup
      .object({
        name: text(200).min(1),
        hash: text(64).matches(/^[0-9a-f]{64}$/, 'The offered file is not known'),
        bytes: yup.number().integer().min(0).required(),
      })
      .required(),
    as: yup.string().oneOf(['version', 'drawing', 'unlock']).required(),
    drawing: yup.string().strict().max(100),
    password: yup.string().strict().max(200),
  })
  .noUnknown()
  .strict();

export const arrivalAnswerSchema = yup
  .object({
    as: yup.string<ArrivalAnswer['as']>().oneOf(['version', 'drawing', 'unlock', 'decline']).required(),
    password: yup.string().strict().max(200),
  })
  .noUnknown()
  .strict();

/** Of how many sheets it can be asked at once how they come out. */
export const MOST_COMPOSED = 100;

export const composedSheetsSchema = yup
  .object({ ids: yup.array(text(100).min(1)).min(1).max(MOST_COMPOSED).required() })
  .noUnknown()
  .strict();

export const presenceSchema = yup
  .object({
    window: text(60).min(1),
    id: text(60).min(1),
    name: text(MAX_PERSON_NAME),
    sheet: text(100).nullable(),
  })
  .noUnknown()
  .strict();

export const presenceEndedSchema = yup
  .object({ window: text(60).min(1) })
  .noUnknown()
  .strict();

export const sheetsRemovedSchema = yup
  .object({ ids: yup.array(text(100).min(1)).min(1).max(5000).required() })
  .noUnknown()
  .strict();

const optionChanges = settingChangeSchemas(PACKAGE_OPTIONS);

export const packageChangeSchema = yup
  .object({
    name: yup.string().strict().min(1, 'A package needs a name').max(200),
    order: yup.array(text(100)).max(5000),
    ...optionChanges,
    publishes: optionChanges['publishes']!.nullable(),
    recipe: yup.string().strict().max(100),
    names: yup.object({ file: text(500), folder: text(500), bundle: text(500) }).default(undefined),
    tiles: tilesSchema.nullable(),
    extraFormats: extraFormatsSchema.nullable(),
    destinations: destinationsSchema.nullable(),
    was: yup.object().strict().default(undefined),
    ...packageParts,
  })
  .noUnknown()
  .strict();

/** Whether something is removed, or restored. */
export const removedSchema = yup.object({ removed: yup.boolean().strict().required() }).noUnknown().strict();

/** The name of a run; null: that of its package. */
export const runChangeSchema = yup
  .object({ name: text(200).matches(/\S/, 'A run needs a name.').nullable().defined() })
  .noUnknown()
  .strict();

export const drawingChangeSchema = yup
  .object({
    name: text(200).trim().min(1, 'A drawing needs a name.').optional().default(undefined),
    unit: yup.string().oneOf([...LENGTH_UNITS]),
    windows: yup
      .array(namedWindowSchema.required())
      .max(500)
      .default(undefined)
      .test('names', 'Two windows of a drawing have the same name; give one another', (windows) => {
        const names = (windows ?? []).map(({ name }) => name.toLowerCase());
        return new Set(names).size === names.length;
      }),
  })
  .noUnknown()
  .strict();

export const newPackageSchema = yup
  .object({ name: text(200).min(1, 'A package needs a name'), like: yup.string().strict().max(100) })
  .noUnknown()
  .strict();

export const newIssueSchema = yup
  .object({
    run: text(100).min(1).required(),
    date: yup
      .string()
      .strict()
      .max(10)
      .matches(/^\d{4}-\d{2}-\d{2}$/, 'An issue needs its date as YYYY-MM-DD')
      .required(),
    purpose: text(200).trim().min(1, 'An issue needs a purpose').required('An issue needs a purpose'),
    recipients: yup
      .array()
      .strict()
      .of(text(200).min(1).required())
      .min(1, 'An issue needs a recipient')
      .max(200)
      .required(),
    remarks: yup.string().strict().max(5000),
    supersedes: yup.string().strict().max(100),
  })
  .noUnknown()
  .strict();

export const settingsChangeSchema = yup
  .object({
    project: projectSchema.default(undefined),
    groups: yup.array().of(groupSchema.required()).max(500).default(undefined),
    recipes: yup.array().of(recipeSchema.required()).max(200).default(undefined),
    was: yup.object().strict().default(undefined),
  })
  .noUnknown()
  .strict();

export const newProjectSchema = yup
  .object({
    number: text(60),
    name: text(200).trim().min(1, 'A project needs a name.'),
    like: text(100).optional().default(undefined),
  })
  .noUnknown()
  .strict();

/** Where a run is to be sent. */
export const runDeliverySchema = yup.object({ destination: destinationSchema }).noUnknown().strict();

export const recipientPageOpeningSchema = yup
  .object({ password: text(100).optional().default(undefined) })
  .noUnknown()
  .strict();

/** Which of so many files are at destinations already. */
export const destinationQuerySchema = yup
  .object({
    destinations: yup.array(destinationSchema).max(MAX_DESTINATIONS).required(),
    paths: yup.array(text(1000)).max(20_000).required(),
  })
  .noUnknown()
  .strict();

export const runOptionsSchema = yup
  .object({
    pack: packageChangeSchema.default(undefined),
    protect: yup
      .object({
        open: text(127),
        change: text(127),
        allow: yup
          .object({
            print: yup.boolean().required(),
            change: yup.boolean().required(),
            copy: yup.boolean().required(),
          })
          .noUnknown()
          .required(),
      })
      .noUnknown()
      .default(undefined),
  })
  .noUnknown()
  .strict();

export const transferServerSchema = yup
  .object({
    name: text(60).matches(/\S/, 'A transfer server needs a name.'),
    address: text(500).matches(
      /^(sftp|ftps?|https?):\/\/[^\s/@]+(\/\S*)?$|^s3(\+http)?:\/\/[^\s/@]+\/[^\s/]\S*$|^smtps?:\/\/[^\s/@]+\/?$|^ipps?:\/\/[^\s/@]+(\/\S*)?$/,
      'An address has the form sftp://host/folder, ftps://host/folder, https://host/folder for WebDAV, s3://host/bucket/folder, smtps://host for email, or ipps://host/path for a plotter.',
    ),
    user: text(100),
    secret: yup.string().strict().max(10_000).optional(),
    fingerprint: yup.string().strict().max(100).nullable().defined(),
  })
  .noUnknown()
  .strict();

export const webhookSchema = yup
  .object({
    name: text(60).matches(/\S/, 'A webhook needs a name.'),
    address: text(2000).matches(
      /^https?:\/\/[^\s/@]+(\/\S*)?$/,
      'An address has the form https://host/path, without a user name.',
    ),
    topics: yup
      .array()
      .of(yup.string().oneOf(Object.keys(WEBHOOK_TOPICS)).defined())
      .min(1, 'Choose at least one of runs, deliveries and issues.')
      .strict()
      .defined(),
  })
  .noUnknown()
  .strict();
