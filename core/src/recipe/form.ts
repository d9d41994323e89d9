import { schedulesOf, type PenSchedule } from '../pens/schedule';
import type { Recipe } from './recipe';
import { RECIPE_SETTINGS, type RecipeSetting, type RecipeTopic } from './settings';

/** The pen schedule that leaves lines as they are drawn. */
const AS_DRAWN = 'as-drawn';

/** A setting as a form shows it. */
export interface RecipeField {
  setting: RecipeSetting;
  key: string;
  topic: RecipeTopic;
  caption: string;
  kind: 'choice' | 'number' | 'patterns';
  /** Of a choice: values as a control holds them, and words; the first is the default. */
  choices: readonly (readonly [value: string, words: string])[];
  /** Of numbers and patterns: the words for no value. */
  absent: string;
}

/** The fields of a recipe's form; the pen schedules of the project are among the choices. */
export function recipeFields(project: { penSchedules?: PenSchedule[] }): RecipeField[] {
  return RECIPE_SETTINGS.map((setting: RecipeSetting) => {
    const { key, topic, caption, kind } = setting;
    const field = { setting, key, topic, caption, choices: [], absent: '' };
    if (kind === 'id') return { ...field, kind: 'choice', choices: scheduleChoices(project) };
    if (kind !== 'choice') return { ...field, kind, absent: setting.absent };
    return {
      ...field,
      kind,
      choices: setting.options.map(({ value, words }) => [String(value ?? ''), words] as const),
    };
  });
}

function scheduleChoices(project: { penSchedules?: PenSchedule[] }): [string, string][] {
  const schedules = schedulesOf(project).map(({ id, name }): [string, string] => [id, name]);
  const isAsDrawn = ([id]: [string, string]): boolean => id === AS_DRAWN;
  return [...schedules.filter(isAsDrawn), ...schedules.filter((schedule) => !isAsDrawn(schedule))];
}

/** The value that means the same as leaving the setting out; undefined where there is none. */
function defaultOf(setting: RecipeSetting): unknown {
  if (setting.kind === 'id') return AS_DRAWN;
  if (setting.kind === 'number') return setting.neutral;
  return setting.kind === 'choice' ? setting.options[0]!.value : undefined;
}

function valueIn(recipe: Recipe, { key }: Pick<RecipeField, 'key'>): unknown {
  return recipe[key as keyof Recipe];
}

/** True where a recipe states something else of a field than the default. */
export function differsFromDefault(recipe: Recipe, field: RecipeField): boolean {
  const value = valueIn(recipe, field);
  return value !== undefined && value !== defaultOf(field.setting) && !(Array.isArray(value) && value.length === 0);
}

/** A field of a recipe as its control shows it; blank where the recipe does not state it. */
export function displayValue(recipe: Recipe, field: RecipeField): string {
  const value = valueIn(recipe, field) ?? (field.kind === 'choice' ? defaultOf(field.setting) : undefined);
  return Array.isArray(value) ? value.join(', ') : String(value ?? '');
}

/** A recipe in which a field states what was typed or chosen; undefined where that is not possible. */
export function withField(recipe: Recipe, field: RecipeField, typed: string): Recipe | undefined {
  const value = parsed(field.setting, typed.trim());
  if (Number.isNaN(value)) return undefined;
  const changed = { ...recipe, [field.key]: value } as Recipe;
  const required = field.setting.kind === 'choice' && field.setting.required;
  if (!differsFromDefault(changed, field) && !required) delete changed[field.key as 'pens'];
  return changed;
}

/** A recipe in which a field has its default. */
export function withDefault(recipe: Recipe, field: RecipeField): Recipe {
  return withField(recipe, field, String(defaultOf(field.setting) ?? ''))!;
}

/** What must be typed into a field of numbers. */
export function rangeHint({ setting, caption }: RecipeField): string {
  if (setting.kind !== 'number') return '';
  const { whole, min, max, absent } = setting;
  return `${caption}: type a ${whole ? 'whole ' : ''}number from ${min} to ${max}, or leave it blank for ${absent}.`;
}

/** Not a number where the text cannot be meant. */
function parsed(setting: RecipeSetting, typed: string): unknown {
  if (typed === '') return undefined;
  switch (setting.kind) {
    case 'id':
      return typed;
    case 'patterns':
      return typed
        .split(',')
        .map((one) => one.trim())
        .filter(Boolean);
    case 'choice':
      return setting.options.find(({ value }) => String(value ?? '') === typed)?.value ?? typed;
    case 'number': {
      const value = Number(typed.replace(',', '.'));
      return value >= setting.min && value <= setting.max && (!setting.whole || Number.isInteger(value)) ? value : NaN;
    }
  }
}
