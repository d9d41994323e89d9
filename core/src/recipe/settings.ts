import { SHIPPED_SCHEDULES } from '../pens/schedule';
import type { ColourMode } from '../pens/ink';
import type {
  ChoiceSetting,
  IdSetting,
  NumberSetting,
  Option,
  PatternsSetting,
  ValuesOf,
} from '../settings/descriptor';

/** Part of a recipe's form that a setting is in. */
export type RecipeTopic = 'Ink' | 'Layers' | 'Text and links' | 'Pictures' | 'File';

interface InRecipe {
  topic: RecipeTopic;
}

interface RecipeOption extends Option {
  /** In the sentence that says what a recipe does; empty: it goes without saying. */
  sentence: string;
}

interface RecipeNumber extends NumberSetting {
  /** In the sentence, around the value. */
  sentence: readonly [before: string, after: string];
}

interface RecipePatterns extends PatternsSetting {
  /** In the sentence, after the patterns. */
  sentence: string;
}

/** The id of a pen schedule of the project, or of a shipped one. */
interface RecipePens extends IdSetting {
  key: 'pens';
}

export type RecipeSetting = (ChoiceSetting<RecipeOption> | RecipeNumber | RecipePatterns | RecipePens) & InRecipe;

/** Highest resolutions of pictures that can be asked for, dots per inch. */
export const PICTURE_DPI = { min: 72, max: 1200 } as const;

/** The ways in which colours print. */
export const COLOUR_OPTIONS = [
  { value: 'full', words: 'full colour', sentence: 'in full colour' },
  { value: 'greys', words: 'greys', sentence: 'in greys' },
  { value: 'black', words: 'all black', sentence: 'all black' },
] as const satisfies readonly (RecipeOption & { value: ColourMode })[];

/**
 * Everything that a recipe states, in the order of the form. From this list come the type of recipes, their checking, the
 * form in Settings, the sentence that says what a recipe does, the JSON Schema and the table in the docs.
 */
export const RECIPE_SETTINGS = [
  {
    key: 'colour',
    topic: 'Ink',
    kind: 'choice',
    caption: 'Colours',
    required: true,
    description: 'how colours print; greys by relative luminance (ITU-R BT.709)',
    options: COLOUR_OPTIONS,
  },
  {
    key: 'pens',
    topic: 'Ink',
    kind: 'id',
    caption: 'Pens',
    description: `id of a pen schedule: one of \`penSchedules\`, or a shipped one (${SHIPPED_SCHEDULES.map(({ id }) => `\`${id}\``).join(', ')})`,
  },
  {
    key: 'leastWeight',
    topic: 'Ink',
    kind: 'number',
    caption: 'Minimum line weight, mm',
    min: 0,
    max: 2,
    neutral: 0,
    absent: 'none',
    sentence: ['no line under ', ' mm'],
    description: 'no line is thinner, mm; applied after `weightFactor`',
  },
  {
    key: 'weightFactor',
    topic: 'Ink',
    kind: 'number',
    caption: 'Line weight factor',
    min: 0.1,
    max: 4,
    neutral: 1,
    absent: '1',
    sentence: ['all weights × ', ''],
    description: 'all line weights are multiplied by it',
  },
  {
    key: 'layers',
    topic: 'Layers',
    kind: 'choice',
    caption: 'Layers in the PDF',
    required: true,
    description:
      'layers that can be switched in the PDF: the visible ones, all of them with the hidden ones off at first, or none; PDF 1.4 has none',
    options: [
      { value: 'shown', words: 'visible layers', sentence: 'with the layers that are shown' },
      { value: 'all', words: 'all layers, hidden ones off', sentence: 'with all layers, the hidden ones off' },
      { value: 'none', words: 'none', sentence: 'without layers' },
    ],
  },
  {
    key: 'layersByView',
    topic: 'Layers',
    kind: 'choice',
    caption: 'Layer list',
    description: 'layers are listed by view under their drawings',
    options: [
      { value: undefined, words: 'by drawing', sentence: '' },
      { value: true, words: 'by drawing and view', sentence: 'listed by view' },
    ],
  },
  {
    key: 'layersLocked',
    topic: 'Layers',
    kind: 'patterns',
    caption: 'Locked layers, by name',
    absent: 'none, such as A-GRID*',
    sentence: 'locked',
    description: 'patterns of layers that readers cannot switch',
  },
  {
    key: 'layersPrintOnly',
    topic: 'Layers',
    kind: 'patterns',
    caption: 'Print-only layers, by name',
    absent: 'none',
    sentence: 'only in print',
    description: 'patterns of layers that print but are not seen on screen (A-2b forbids it: they are seen there)',
  },
  {
    key: 'text',
    topic: 'Text and links',
    kind: 'choice',
    caption: 'Texts',
    alsoAccepted: ['text'],
    description:
      'how texts are seen; `strokes`: single-stroke lettering as lines of its pen, the rest as text. Except for `text`, the text itself is below, invisible, so that it can be searched',
    options: [
      { value: undefined, words: 'as text', sentence: '' },
      {
        value: 'strokes',
        words: 'single-stroke lettering as lines',
        sentence: 'single-stroke lettering as lines that can be searched',
      },
      { value: 'outlines', words: 'as outlines, text below', sentence: 'texts as outlines that can be searched' },
      { value: 'picture', words: 'as pictures, text below', sentence: 'texts as pictures that can be searched' },
    ],
  },
  {
    key: 'links',
    topic: 'Text and links',
    kind: 'choice',
    caption: 'Links between sheets',
    description: 'links to sheets of the package and to web addresses, and how they look (`plain`: not seen)',
    options: [
      { value: 'plain', words: 'invisible', sentence: 'sheets linked' },
      { value: 'underlined', words: 'underlined', sentence: 'sheets linked and underlined' },
      { value: 'tinted', words: 'tinted', sentence: 'sheets linked and tinted' },
      { value: 'none', words: 'none', sentence: 'without links' },
    ],
  },
  {
    key: 'bookmarks',
    topic: 'Text and links',
    kind: 'choice',
    caption: 'Bookmarks',
    description: 'the outline of a file: its sheets under their groups, and the views of each',
    options: [
      { value: undefined, words: 'sheets and views', sentence: '' },
      { value: 'sheets', words: 'sheets', sentence: 'with bookmarks of sheets only' },
      { value: 'none', words: 'none', sentence: 'without bookmarks' },
    ],
  },
  {
    key: 'pictureDpi',
    topic: 'Pictures',
    kind: 'number',
    caption: 'Maximum resolution, dpi',
    ...PICTURE_DPI,
    whole: true,
    absent: 'original',
    sentence: ['pictures of at most ', ' dpi'],
    description: 'pictures have at most this many dots per inch on paper',
  },
  {
    key: 'pictureQuality',
    topic: 'Pictures',
    kind: 'number',
    caption: 'JPEG quality, %',
    min: 1,
    max: 100,
    whole: true,
    absent: 'without loss',
    sentence: ['JPEG quality ', ''],
    description: 'pictures are JPEG of this quality; absent: without loss, or as they came',
  },
  {
    key: 'pictureTone',
    topic: 'Pictures',
    kind: 'choice',
    caption: 'Colours of pictures',
    description: 'pictures in black and white, one bit a pixel, without loss; lighter than half is white',
    options: [
      { value: undefined, words: 'as the other colours', sentence: '' },
      { value: 'bilevel', words: 'black and white', sentence: 'pictures in black and white' },
    ],
  },
  {
    key: 'version',
    topic: 'File',
    kind: 'choice',
    caption: 'PDF version',
    description:
      'version of PDF: `1.4` (no layers, for old systems), `1.7`, `2.0`, or `A-2b` for archiving (ISO 19005-2)',
    options: [
      { value: '1.7', words: '1.7', sentence: '' },
      { value: '2.0', words: '2.0', sentence: 'as PDF 2.0' },
      { value: 'A-2b', words: 'A-2b, for archiving', sentence: 'as PDF/A-2b, for archiving' },
      { value: '1.4', words: '1.4, for old systems', sentence: 'as PDF 1.4' },
    ],
  },
  {
    key: 'opens',
    topic: 'File',
    kind: 'choice',
    caption: 'Opens with',
    description: 'how the first page is shown when the file is opened',
    options: [
      { value: 'page', words: 'the whole page', sentence: '' },
      { value: 'width', words: 'the page width', sentence: 'opening at its full width' },
      { value: 'full-size', words: 'full size', sentence: 'opening at full size' },
    ],
  },
  {
    key: 'turn',
    topic: 'File',
    kind: 'choice',
    caption: 'Page rotation',
    description: 'degrees clockwise by which pages are turned when shown and printed',
    options: [
      { value: undefined, words: 'no', sentence: '' },
      { value: 90, words: 'by 90°, clockwise', sentence: 'pages turned by 90°' },
      { value: 180, words: 'by 180°', sentence: 'pages turned by 180°' },
      { value: 270, words: 'by 270°, clockwise', sentence: 'pages turned by 270°' },
    ],
  },
  {
    key: 'linearised',
    topic: 'File',
    kind: 'choice',
    caption: 'File layout',
    description:
      'the first page shows before the rest has come over a network (ISO 32000-2, annex F); such files are a little larger',
    options: [
      { value: undefined, words: 'smallest file', sentence: '' },
      { value: true, words: 'for reading over a network', sentence: 'laid out for reading over a network' },
    ],
  },
] as const satisfies readonly RecipeSetting[];

/** The settings of a recipe by key; the required ones are always there. */
export type RecipeValues = ValuesOf<typeof RECIPE_SETTINGS>;
