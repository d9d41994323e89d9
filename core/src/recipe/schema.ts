import * as yup from 'yup';
import { id, number, only, text } from '../shapes';
import { MAX_PATTERN_LENGTH, MAX_PATTERNS, RECIPE_SETTINGS, type RecipeSetting } from './settings';

/** What checks one setting. */
function schemaOf(setting: RecipeSetting): yup.ISchema<unknown> {
  switch (setting.kind) {
    case 'pens':
      return text.min(1);
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
      const values = setting.options.flatMap(({ value }) => (value === undefined ? [] : [value]));
      const { required } = setting;
      if (values.every((value) => value === true)) return yup.boolean().strict().oneOf([true]);
      if (values.every((value) => typeof value === 'number')) return number.oneOf(values);
      const choice = text.oneOf([...(values as string[]), ...implied(setting)]);
      return required ? choice.default(values[0] as string) : choice;
    }
  }
}

/** Texts may also be stated as what they are by default: `text`. */
function implied({ key }: RecipeSetting): string[] {
  return key === 'text' ? ['text'] : [];
}

export const recipeSchema = only({
  id,
  name: text.required(),
  ...Object.fromEntries(RECIPE_SETTINGS.map((setting) => [setting.key, schemaOf(setting)])),
  protect: only({
    open: text.max(127),
    change: text.max(127),
    allow: yup
      .array()
      .strict()
      .of(text.oneOf(['print', 'change', 'copy']).required()),
  }).default(undefined),
});

/** The settings of a recipe as JSON Schema (2020-12), by key. */
export function recipeJsonSchema(): Record<string, object> {
  return Object.fromEntries(RECIPE_SETTINGS.map((setting) => [setting.key, jsonSchemaOf(setting)]));
}

function jsonSchemaOf(setting: RecipeSetting): object {
  const { description } = setting;
  switch (setting.kind) {
    case 'pens':
      return { description, type: 'string', minLength: 1 };
    case 'number':
      return { description, type: setting.whole ? 'integer' : 'number', minimum: setting.min, maximum: setting.max };
    case 'patterns': {
      const items = { type: 'string', minLength: 1, maxLength: MAX_PATTERN_LENGTH };
      return { description, type: 'array', maxItems: MAX_PATTERNS, items };
    }
    case 'choice': {
      const values = setting.options.flatMap(({ value }) => (value === undefined ? [] : [value]));
      const all = [...implied(setting), ...values];
      return all.length === 1 ? { description, const: all[0] } : { description, enum: all };
    }
  }
}
