import { schedulesOf, type ProjectFacts, type Recipe } from '@folvex/core';

/** One thing that a recipe says. */
export interface RecipeField {
  key: Exclude<keyof Recipe, 'id' | 'name' | 'protect'>;
  topic: 'Ink' | 'Layers' | 'Text and links' | 'Pictures' | 'File';
  caption: string;
  kind: 'choice' | 'number' | 'patterns';
  /** Of a choice: values, as they are shown, and words; the first is the usual one. */
  choices?: readonly (readonly [value: string, words: string])[];
  least?: number;
  most?: number;
  whole?: boolean;
  /** What stands for a number or patterns that are not said. */
  unsaid?: string;
}

/** All that a recipe may say; the pen schedules of the project are among the choices. */
export function recipeFields(project: Pick<ProjectFacts, 'penSchedules'>): RecipeField[] {
  const schedules = schedulesOf(project).map(({ id, name }) => [id, name] as const);
  const asDrawn = schedules.filter(([id]) => id === USUAL.pens);
  return [
    choice('colour', 'Ink', 'Colours', [
      ['full', 'full colour'],
      ['greys', 'greys'],
      ['black', 'all black'],
    ]),
    choice('pens', 'Ink', 'Pens', [...asDrawn, ...schedules.filter(([id]) => id !== USUAL.pens)]),
    {
      ...{ key: 'leastWeight', topic: 'Ink', caption: 'No line under, mm', kind: 'number' },
      ...{ least: 0, most: 2, unsaid: 'as thin as drawn' },
    },
    {
      ...{ key: 'weightFactor', topic: 'Ink', caption: 'All weights times', kind: 'number' },
      ...{ least: 0.1, most: 4, unsaid: '1' },
    },
    choice('layers', 'Layers', 'Layers to switch', [
      ['shown', 'those shown'],
      ['all', 'all, the hidden ones off'],
      ['none', 'none'],
    ]),
    choice('layersByView', 'Layers', 'Listed', [
      ['', 'by drawing'],
      ['true', 'by drawing and view'],
    ]),
    {
      ...{ key: 'layersLocked', topic: 'Layers', caption: 'Locked, by name' },
      ...{ kind: 'patterns', unsaid: 'none, such as A-GRID*' },
    },
    {
      ...{ key: 'layersPrintOnly', topic: 'Layers', caption: 'Only in print, by name' },
      ...{ kind: 'patterns', unsaid: 'none' },
    },
    choice('text', 'Text and links', 'Texts', [
      ['', 'as text'],
      ['strokes', 'single-stroke lettering as lines'],
      ['outlines', 'as outlines, text below'],
      ['picture', 'as pictures, text below'],
    ]),
    choice('links', 'Text and links', 'Links between sheets', [
      ['plain', 'there, not seen'],
      ['underlined', 'underlined'],
      ['tinted', 'tinted'],
      ['none', 'none'],
    ]),
    {
      ...{ key: 'pictureDpi', topic: 'Pictures', caption: 'At most, dpi', kind: 'number' },
      ...{ least: 72, most: 1200, whole: true, unsaid: 'as they came' },
    },
    {
      ...{ key: 'pictureQuality', topic: 'Pictures', caption: 'JPEG quality, %', kind: 'number' },
      ...{ least: 1, most: 100, whole: true, unsaid: 'without loss' },
    },
    choice('pictureTone', 'Pictures', 'Tones', [
      ['', 'as the colours say'],
      ['bilevel', 'black and white'],
    ]),
    choice('version', 'File', 'PDF version', [
      ['1.7', '1.7'],
      ['2.0', '2.0'],
      ['A-2b', 'A-2b, to keep'],
      ['1.4', '1.4, for old systems'],
    ]),
    choice('opens', 'File', 'Opens with', [
      ['page', 'the whole page'],
      ['width', 'its width'],
      ['full-size', 'its full size'],
    ]),
    choice('turn', 'File', 'Pages turned', [
      ['', 'not'],
      ['90', 'by 90°, clockwise'],
      ['180', 'by 180°'],
      ['270', 'by 270°, clockwise'],
    ]),
    choice('linearised', 'File', 'Laid out', [
      ['', 'for size'],
      ['true', 'to read over a network'],
    ]),
  ];
}

/** What goes without saying, where that is not to be absent. */
const USUAL: Partial<Recipe> & { pens: string } = {
  colour: 'full',
  layers: 'shown',
  pens: 'as-drawn',
  leastWeight: 0,
  weightFactor: 1,
  links: 'plain',
  version: '1.7',
  opens: 'page',
};
/** These are said even so. */
const ALWAYS: readonly string[] = ['colour', 'layers'];

function choice(
  key: RecipeField['key'],
  topic: RecipeField['topic'],
  caption: string,
  choices: RecipeField['choices'] & object,
): RecipeField {
  return { key, topic, caption, kind: 'choice', choices };
}

/** True where a recipe says something else of a field than the usual. */
export function differsFromDefault(recipe: Recipe, { key }: RecipeField): boolean {
  const value = recipe[key];
  return value !== undefined && value !== USUAL[key] && !(Array.isArray(value) && value.length === 0);
}

/** A field of a recipe as its control shows it; blank where nothing is said. */
export function displayValue(recipe: Recipe, { key, kind }: RecipeField): string {
  const value = recipe[key] ?? (kind === 'choice' ? USUAL[key] : undefined);
  return Array.isArray(value) ? value.join(', ') : String(value ?? '');
}

/** A recipe in which a field says what was typed or chosen; undefined where that cannot be. */
export function withField(recipe: Recipe, field: RecipeField, typed: string): Recipe | undefined {
  const value = valueOf(field, typed.trim());
  if (Number.isNaN(value)) return undefined;
  const changed = { ...recipe, [field.key]: value } as Recipe;
  if (!differsFromDefault(changed, field) && !ALWAYS.includes(field.key)) delete changed[field.key as 'pens'];
  return changed;
}

/** A recipe in which a field is as usual. */
export function withDefault(recipe: Recipe, field: RecipeField): Recipe {
  return withField(recipe, field, String(USUAL[field.key] ?? ''))!;
}

/** What must be typed into a field of numbers. */
export function rangeHint({ caption, least, most, whole, unsaid }: RecipeField): string {
  return `${caption}: type a ${whole ? 'whole ' : ''}number from ${least} to ${most}, or leave it blank for ${unsaid}.`;
}

/** Not a number where the text cannot be meant. */
function valueOf({ kind, key, least = 0, most = Infinity, whole }: RecipeField, typed: string): unknown {
  if (typed === '') return undefined;
  if (kind === 'patterns') {
    return typed
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean);
  }
  if (kind === 'choice') return typed === 'true' ? true : key === 'turn' ? Number(typed) : typed;
  const number = Number(typed.replace(',', '.'));
  return number >= least && number <= most && (!whole || Number.isInteger(number)) ? number : NaN;
}
