import type { Blanks } from '../naming/rule';
import type { PaperCorner } from '../page/resize';
import { COLOUR_OPTIONS, PICTURE_DPI } from '../recipe/settings';
import type { Option, Setting } from '../settings/descriptor';
import { DXF_OPTIONS } from '../settings/exchange';

/** How a package's pages are put into files. */
export const BUNDLING_OPTIONS = [
  { value: 'one', words: 'One file' },
  { value: 'sheet', words: 'A file per sheet' },
  { value: 'group', words: 'A file per group' },
] as const satisfies readonly Option[];

/** What to do where a field of a name is blank. */
export const BLANKS_OPTIONS = [
  { value: 'stop', words: 'Stop the run' },
  { value: 'skip', words: 'Leave them out, with the separator before them' },
] as const satisfies readonly (Option & { value: Blanks })[];

/** When a package publishes by itself. */
export const SCHEDULE_OPTIONS = [
  { value: undefined, words: 'by hand only' },
  { value: 'day', words: 'every day' },
  { value: 'weekday', words: 'Monday to Friday' },
  { value: 'monday', words: 'every Monday' },
  { value: 'tuesday', words: 'every Tuesday' },
  { value: 'wednesday', words: 'every Wednesday' },
  { value: 'thursday', words: 'every Thursday' },
  { value: 'friday', words: 'every Friday' },
  { value: 'saturday', words: 'every Saturday' },
  { value: 'sunday', words: 'every Sunday' },
  { value: 'change', words: 'when something in it changed' },
] as const satisfies readonly Option[];

/** What a package states in single values. Its type, checks, JSON Schema and docs come from this list. */
export const PACKAGE_OPTIONS = [
  {
    key: 'bundling',
    kind: 'choice',
    caption: 'Bundling',
    required: true,
    description: '`one` file, a file per `sheet`, a file per `group`',
    options: BUNDLING_OPTIONS,
  },
  {
    key: 'blanks',
    kind: 'choice',
    caption: 'Blank fields',
    description:
      '`stop` the run where a field of a name is blank, or `skip` the field together with the separator before it',
    options: BLANKS_OPTIONS,
  },
  { key: 'purpose', kind: 'text', caption: 'Purpose', maxLength: 200, description: 'what the package is for' },
  { key: 'date', kind: 'text', format: 'date', caption: 'Date', maxLength: 10, description: 'its date, YYYY-MM-DD' },
  {
    key: 'notes',
    kind: 'text',
    format: 'lines',
    caption: 'Notes',
    maxLength: 5000,
    description: 'anything else about it',
  },
  {
    key: 'publishes',
    kind: 'choice',
    caption: 'Publishes',
    description:
      'when it publishes by itself, if its checks do not stop it: on days, at `publishAt`, or a while after something in it changed (`change`)',
    options: SCHEDULE_OPTIONS,
  },
  {
    key: 'publishAt',
    kind: 'text',
    format: 'time',
    caption: 'At',
    maxLength: 5,
    description: 'the time of day, HH:MM, in the time zone of the server; 16:00 where it is absent',
  },
  {
    key: 'pausedUntil',
    kind: 'text',
    format: 'date',
    caption: 'Paused until',
    maxLength: 10,
    description: 'the first day on which it publishes by itself again, YYYY-MM-DD',
  },
  {
    key: 'tellTo',
    kind: 'text',
    caption: 'Email the result to',
    maxLength: 4000,
    description:
      'who gets an email when it has published by itself, or could not: addresses, and people and firms of `project.people`, separated by commas',
  },
  {
    key: 'tellFrom',
    kind: 'text',
    caption: 'From',
    maxLength: 254,
    description: 'address of the sender of that email',
  },
  {
    key: 'tellServer',
    kind: 'text',
    caption: 'Mail server',
    maxLength: 100,
    description: 'id of the mail server, set up in the settings of the project, that sends it',
  },
] as const satisfies readonly Setting[];

/** How the colours of one page print. */
export const PAGE_COLOUR_OPTIONS = [{ value: undefined, words: 'as the recipe' }, ...COLOUR_OPTIONS] as const;

/** Where on its paper a page lies. */
export const CORNER_OPTIONS = [
  { value: undefined, words: 'in the middle' },
  { value: 'lower-left', words: 'lower left corner' },
  { value: 'lower-right', words: 'lower right corner' },
  { value: 'upper-left', words: 'upper left corner' },
  { value: 'upper-right', words: 'upper right corner' },
] as const satisfies readonly (Option & { value: PaperCorner | undefined })[];

/** What of its paper a page may use. */
export const WITHIN_OPTIONS = [
  { value: undefined, words: 'the paper' },
  { value: 'printable', words: 'the printable area' },
] as const satisfies readonly Option[];

/** What a page states in single values, for one package only. */
export const PAGE_OPTIONS = [
  {
    key: 'skip',
    kind: 'choice',
    caption: 'Published',
    description: 'the page keeps its place but is not published',
    options: [
      { value: undefined, words: 'Yes' },
      { value: true, words: 'No, leave it out' },
    ],
  },
  {
    key: 'colour',
    kind: 'choice',
    caption: 'Colours',
    description: "how its colours print, instead of the recipe's `colour`",
    options: PAGE_COLOUR_OPTIONS,
  },
  {
    key: 'copies',
    kind: 'number',
    caption: 'Copies',
    min: 1,
    max: 99,
    whole: true,
    neutral: 1,
    absent: 'one',
    description: 'how often it is in its file, one after the other',
  },
  {
    key: 'pictureDpi',
    kind: 'number',
    caption: 'Pictures, dpi',
    ...PICTURE_DPI,
    whole: true,
    absent: 'as the recipe',
    description:
      "highest resolution of its pictures on paper, dots per inch, instead of the recipe's `pictureDpi`; a higher one makes the file larger",
  },
  {
    key: 'percent',
    kind: 'number',
    caption: 'Size, %',
    min: 1,
    max: 1000,
    absent: 'to fit',
    description: 'how large it is printed, per cent of its size; left out: as large as fits its `paper`',
  },
  {
    key: 'within',
    kind: 'choice',
    caption: 'Fit within',
    description:
      "the area it is fitted to and placed in: the whole paper, or only what the project's plotter can print on",
    options: WITHIN_OPTIONS,
  },
  {
    key: 'corner',
    kind: 'choice',
    caption: 'Position',
    description: 'the corner of the paper that it lies in; left out: it lies in the middle',
    options: CORNER_OPTIONS,
  },
  {
    key: 'offsetX',
    kind: 'number',
    caption: 'Offset x, mm',
    min: -2000,
    max: 2000,
    neutral: 0,
    absent: '0',
    description: 'how far it is moved, mm: from its corner towards the middle, or to the right',
  },
  {
    key: 'offsetY',
    kind: 'number',
    caption: 'Offset y, mm',
    min: -2000,
    max: 2000,
    neutral: 0,
    absent: '0',
    description: 'how far it is moved, mm: from its corner towards the middle, or upwards',
  },
] as const satisfies readonly Setting[];

/** What a package states in single values for its other formats. */
export const EXTRA_FORMAT_OPTIONS = [
  {
    key: 'dpi',
    kind: 'number',
    caption: 'Resolution of pictures, dpi',
    min: 36,
    max: 1200,
    whole: true,
    neutral: 300,
    absent: '300',
    description: 'dots per inch of pictures, 300 where it is left out',
  },
  {
    key: 'apart',
    kind: 'choice',
    caption: 'Folders',
    description: 'each format has a folder of its own',
    options: [
      { value: undefined, words: 'One folder for all formats' },
      { value: true, words: 'A folder for each format' },
    ],
  },
  ...DXF_OPTIONS,
] as const satisfies readonly Setting[];
