import Ajv from 'ajv/dist/2020.js';
import {
  differsFromDefault,
  displayValue,
  MAX_PATTERN_LENGTH,
  MAX_PATTERNS,
  rangeHint,
  RECIPE_SETTINGS,
  recipeFields,
  recipeInWords,
  recipeSchema,
  settingJsonSchemas,
  STANDARD_RECIPE,
  withDefault,
  withField,
  withoutPasswords,
  type Recipe,
  type RecipeField,
  type RecipeSetting,
} from '../../src/index';

const RECIPE: Recipe = { ...STANDARD_RECIPE, id: 'r' };
const FIELDS = recipeFields({});

const byYup = (recipe: object): boolean => recipeSchema.isValidSync(recipe, { strict: true });
const byJsonSchema = new Ajv({ allErrors: true }).compile({
  type: 'object',
  properties: settingJsonSchemas(RECIPE_SETTINGS),
});

function field(key: string): RecipeField {
  return FIELDS.find((one) => one.key === key)!;
}

/** Values that a setting takes, and values that it does not. */
function samples(setting: RecipeSetting): { good: unknown[]; bad: unknown[] } {
  switch (setting.kind) {
    case 'id':
      return { good: ['iso-five', 'ours'], bad: ['', 5, ['as-drawn']] };
    case 'number':
      return {
        good: [setting.min, setting.max, Math.ceil(setting.min)],
        bad: [setting.min - 1, setting.max + 1, String(setting.max), ...(setting.whole ? [setting.min + 0.5] : [])],
      };
    case 'patterns':
      return {
        good: [[], ['A-GRID*'], Array(MAX_PATTERNS).fill('A'), ['x'.repeat(MAX_PATTERN_LENGTH)]],
        bad: ['A-GRID*', [''], [3], Array(MAX_PATTERNS + 1).fill('A'), ['x'.repeat(MAX_PATTERN_LENGTH + 1)]],
      };
    case 'choice':
      return {
        good: setting.options.flatMap(({ value }) => (value === undefined ? [] : [value])),
        bad: ['something else', 91, false, []],
      };
  }
}

describe('the settings of a recipe', () => {
  it('have a key, a caption and a description each, and choices with words', () => {
    const keys = RECIPE_SETTINGS.map(({ key }) => key);
    expect(new Set(keys).size).toBe(keys.length);
    for (const setting of RECIPE_SETTINGS as readonly RecipeSetting[]) {
      expect(setting.caption).not.toBe('');
      expect(setting.description.length).toBeGreaterThan(10);
      if (setting.kind !== 'choice') continue;
      expect(setting.options.length).toBeGreaterThan(1);
      expect(new Set(setting.options.map(({ words }) => words)).size).toBe(setting.options.length);
    }
  });

  it.each(RECIPE_SETTINGS.map((setting) => [setting.key, setting] as const))(
    '%s takes the same values in the interface as in job files',
    (key, setting) => {
      const { good, bad } = samples(setting);
      for (const value of good) {
        expect([value, byYup({ ...RECIPE, [key]: value })]).toEqual([value, true]);
        expect([value, byJsonSchema({ [key]: value })]).toEqual([value, true]);
      }
      for (const value of bad) {
        expect([value, byYup({ ...RECIPE, [key]: value })]).toEqual([value, false]);
        expect([value, byJsonSchema({ [key]: value })]).toEqual([value, false]);
      }
    },
  );

  it('are all there is: an unknown one is refused', () => {
    expect(byYup({ ...RECIPE, weight: 2 })).toBe(false);
    expect(byYup(RECIPE)).toBe(true);
  });

  it('do not hold passwords when they are kept', () => {
    expect(withoutPasswords({ ...RECIPE, protect: { open: 'tern' } })).toEqual(RECIPE);
  });
});

describe('the form of a recipe', () => {
  it('has a field for each setting, in the order of the list', () => {
    expect(FIELDS.map(({ key }) => key)).toEqual(RECIPE_SETTINGS.map(({ key }) => key));
    expect(FIELDS.filter(({ kind }) => kind === 'choice').every(({ choices }) => choices.length > 1)).toBe(true);
  });

  it('offers the pen schedules of the project, lines as they are drawn first', () => {
    const [pens] = recipeFields({ penSchedules: [{ id: 'ours', name: 'Ours', rules: [] }] }).filter(
      ({ key }) => key === 'pens',
    );
    expect(pens!.choices[0]![0]).toBe('as-drawn');
    expect(pens!.choices).toContainEqual(['ours', 'Ours']);
  });

  it.each(FIELDS.map((one) => [one.key, one] as const))('shows and keeps what is chosen in %s', (_, one) => {
    const typed =
      one.setting.kind === 'number'
        ? String(one.setting.max)
        : one.kind === 'patterns'
          ? 'A-GRID*, S-*'
          : one.choices.at(-1)![0];
    const changed = withField(RECIPE, one, typed)!;
    expect(byYup(changed)).toBe(true);
    expect(displayValue(changed, one)).toBe(typed);
    expect(differsFromDefault(changed, one)).toBe(true);
    const back = withDefault(changed, one);
    expect(differsFromDefault(back, one)).toBe(false);
    expect(back).toEqual(RECIPE);
  });

  it('states nothing where the default is chosen, unless a recipe always states it', () => {
    expect(withField(RECIPE, field('version'), '1.7')).toEqual(RECIPE);
    expect(withField({ ...RECIPE, weightFactor: 2 }, field('weightFactor'), '1')).toEqual(RECIPE);
    expect(withField({ ...RECIPE, layersLocked: ['A*'] }, field('layersLocked'), ' , ')).toEqual(RECIPE);
    expect(withField({ ...RECIPE, colour: 'greys' }, field('colour'), 'full')).toEqual(RECIPE);
  });

  it('takes decimals with a comma or a point, and refuses what is not a number in its range', () => {
    const least = field('leastWeight');
    expect(withField(RECIPE, least, '0,18')?.leastWeight).toBe(0.18);
    expect(withField(RECIPE, least, ' 0.25 ')?.leastWeight).toBe(0.25);
    expect(withField(RECIPE, least, '2.01')).toBeUndefined();
    expect(withField(RECIPE, least, 'thin')).toBeUndefined();
    expect(withField(RECIPE, field('pictureDpi'), '150.5')).toBeUndefined();
    expect(rangeHint(field('pictureDpi'))).toBe(
      'Maximum resolution, dpi: type a whole number from 72 to 1200, or leave it blank for original.',
    );
    expect(rangeHint(field('colour'))).toBe('');
  });

  it('shows blanks for numbers and patterns that are not stated, and the default of a choice', () => {
    expect(displayValue(RECIPE, field('pictureDpi'))).toBe('');
    expect(displayValue(RECIPE, field('layersLocked'))).toBe('');
    expect(displayValue(RECIPE, field('opens'))).toBe('page');
    expect(displayValue(RECIPE, field('turn'))).toBe('');
  });
});

describe('what a recipe does, in words', () => {
  const words = (recipe: Partial<Recipe>): string => recipeInWords({ ...RECIPE, ...recipe }, {});

  it('names what matters always, and what differs from the default', () => {
    expect(words({})).toBe(
      'Prints in full colour, with lines as they are drawn, with the layers that are shown, sheets linked.',
    );
    expect(words({ colour: 'black', leastWeight: 0.18, pictureDpi: 150, version: '2.0' })).toBe(
      'Prints all black, with lines as they are drawn, no line under 0.18 mm, with the layers that are shown, ' +
        'sheets linked, pictures of at most 150 dpi, as PDF 2.0.',
    );
    expect(words({ leastWeight: 0, weightFactor: 1 })).toBe(words({}));
  });

  it('says every choice that its options have a sentence for', () => {
    for (const setting of RECIPE_SETTINGS as readonly RecipeSetting[]) {
      if (setting.kind !== 'choice' || setting.key === 'version') continue;
      for (const { value, sentence } of setting.options) {
        const said = words({ [setting.key]: value } as Partial<Recipe>);
        expect(said).toContain(sentence);
      }
    }
  });

  it('leaves out what the version of PDF has no use for', () => {
    const layered: Partial<Recipe> = {
      layers: 'all',
      layersByView: true,
      layersLocked: ['A-GRID*'],
      layersPrintOnly: ['A-NOTE'],
    };
    expect(words(layered)).toContain(
      'with all layers, the hidden ones off, listed by view, A-GRID* locked, A-NOTE only in print',
    );
    // ISO 19005-2 forbids content that is printed and not shown.
    expect(words({ ...layered, version: 'A-2b' })).not.toContain('only in print');
    // Optional content came with PDF 1.5 (ISO 32000-2, 8.11).
    const old = words({ ...layered, version: '1.4' });
    expect(old).toContain('without layers');
    for (const part of ['listed by view', 'locked', 'only in print']) expect(old).not.toContain(part);
  });

  it('names a pen schedule that has rules', () => {
    const penSchedules = [
      { id: 'ours', name: 'Ours', rules: [{ when: {}, weight: 0.25 }] },
      { id: 'empty', name: 'Empty', rules: [] },
    ] as unknown as Parameters<typeof recipeFields>[0]['penSchedules'];
    expect(recipeInWords({ ...RECIPE, pens: 'ours' }, { penSchedules })).toContain('with the pens Ours');
    expect(recipeInWords({ ...RECIPE, pens: 'empty' }, { penSchedules })).toContain('with lines as they are drawn');
  });
});
