import * as yup from 'yup';
import { number, text } from '../shapes';
import { MAX_PATTERN_LENGTH, MAX_PATTERNS, type ChoiceSetting, type Setting, type TextSetting } from './descriptor';

type AnySchema = yup.Schema<unknown, yup.AnyObject, unknown, yup.Flags>;

const DATE = /^(\d{4}-\d{2}-\d{2})?$/;
/** Of a day, as ISO 8601 has it: 00:00 to 23:59. */
export const TIME_OF_DAY = /^(([01]\d|2[0-3]):[0-5]\d)?$/;

/** What checks the values of some settings, by key; casting fills in the required ones. */
export function settingSchemas(settings: readonly Setting[]): Record<string, AnySchema> {
  return Object.fromEntries(settings.map((setting) => [setting.key, schemaOf(setting)]));
}

/** The same for a change of some of them: what is left out stays out. */
export function settingChangeSchemas(settings: readonly Setting[]): Record<string, AnySchema> {
  return Object.fromEntries(settings.map((setting) => [setting.key, schemaOf(setting).default(undefined)]));
}

/** Some settings as JSON Schema (2020-12), by key. */
export function settingJsonSchemas(settings: readonly Setting[]): Record<string, object> {
  return Object.fromEntries(
    settings.map((setting) => [setting.key, { description: setting.description, ...jsonSchemaOf(setting) }]),
  );
}

function schemaOf(setting: Setting): AnySchema {
  switch (setting.kind) {
    case 'id':
      return text.min(1);
    case 'text':
      return textSchema(setting);
    case 'number': {
      const limited = number.min(setting.min).max(setting.max);
      return setting.whole ? limited.integer() : limited;
    }
    case 'patterns':
      return yup
        .array()
        .strict()
        .of(text.min(1).max(MAX_PATTERN_LENGTH).required())
        .max(MAX_PATTERNS)
        .default(undefined);
    case 'choice': {
      const values = statedValues(setting);
      if (values.every((value) => value === true)) return yup.boolean().strict().oneOf([true]);
      if (values.every((value) => typeof value === 'number')) return number.oneOf(values as number[]);
      const choice = text.oneOf(values as string[]);
      return setting.required ? choice.default(setting.options[0]!.value as string) : choice;
    }
  }
}

function textSchema({ maxLength, format, required }: TextSetting): AnySchema {
  if (format === 'date') return text.matches(DATE, '${path} must be a date as YYYY-MM-DD');
  if (format === 'time') return text.matches(TIME_OF_DAY, '${path} must be a time as HH:MM');
  const limited = text.max(maxLength);
  return required ? limited.default('') : limited;
}

function jsonSchemaOf(setting: Setting): object {
  switch (setting.kind) {
    case 'id':
      return { type: 'string', minLength: 1 };
    case 'text':
      if (setting.format === 'date') return { type: 'string', pattern: DATE.source };
      if (setting.format === 'time') return { type: 'string', pattern: TIME_OF_DAY.source };
      return { type: 'string', maxLength: setting.maxLength };
    case 'number':
      return { type: setting.whole ? 'integer' : 'number', minimum: setting.min, maximum: setting.max };
    case 'patterns': {
      const items = { type: 'string', minLength: 1, maxLength: MAX_PATTERN_LENGTH };
      return { type: 'array', maxItems: MAX_PATTERNS, items };
    }
    case 'choice': {
      const values = statedValues(setting);
      return values.length === 1 ? { const: values[0] } : { enum: values };
    }
  }
}

function statedValues({ options, alsoAccepted = [] }: ChoiceSetting): (string | number | true)[] {
  return [...alsoAccepted, ...options.flatMap(({ value }) => (value === undefined ? [] : [value]))];
}
