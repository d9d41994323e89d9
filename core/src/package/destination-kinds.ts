import type { Option, Setting, ValuesOf } from '../settings/descriptor';

interface DestinationKindFacts {
  /** In the choice of destinations. */
  name: string;
  /** What one of this kind states; rules among them are resolved with the fields of project, package and run. */
  settings: readonly Setting[];
}

/** What to do where the destination already has another file of the same name. */
export const CONFLICT_OPTIONS = [
  { value: 'stop', words: 'do not begin' },
  { value: 'both', words: 'keep both: the new one gets a number' },
  { value: 'rename', words: 'rename the older one with its date' },
  { value: 'replace', words: 'replace it' },
] as const satisfies readonly Option[];

export type ConflictPolicy = (typeof CONFLICT_OPTIONS)[number]['value'];

/** A setting of every destination that keeps files under their names. */
const ON_CONFLICT = {
  key: 'onConflict',
  kind: 'choice',
  caption: 'If a file of that name exists',
  required: true,
  description:
    'what to do where another file has the name already: `stop` the run, keep `both` and number the new one, `rename` the older one with its date, `replace` it',
  options: CONFLICT_OPTIONS,
} as const satisfies Setting;

/** Mail servers limit messages to 10 to 50 MB (common practice). */
const [MIN_MAIL_MB, USUAL_MAIL_MB, MAX_MAIL_MB] = [0.1, 10, 50];
/** How long the recipient's page of an email stays open. */
const [USUAL_PAGE_DAYS, MAX_PAGE_DAYS] = [14, 365];

/** The widest unprintable margin that can be entered, mm. */
const MAX_MARGIN_MM = 100;
/** As many sets as anybody prints at once. */
const MAX_SETS = 50;

/**
 * The kinds of places that files are delivered to, by id. How one is reached is in `press/src/destinations/kinds`, under
 * the same id.
 */
export const DESTINATION_KINDS = {
  folder: {
    name: 'Folder on the server',
    settings: [
      {
        key: 'folder',
        kind: 'text',
        format: 'rule',
        caption: 'Folder',
        maxLength: 500,
        required: true,
        initial: '[project.number]',
        description: 'a rule with fields of project, package and run, below the folder that `FOLVEX_DELIVERY` names',
      },
      ON_CONFLICT,
    ],
  },
  server: {
    name: 'Transfer server',
    settings: [
      {
        key: 'server',
        kind: 'text',
        caption: 'Server',
        maxLength: 100,
        required: true,
        description:
          'id of a transfer server that is set up in the settings of the project, or in the file of servers that the command is given',
      },
      {
        key: 'folder',
        kind: 'text',
        format: 'rule',
        caption: 'Folder',
        maxLength: 500,
        required: true,
        initial: '[project.number]',
        description: 'a rule with fields of project, package and run, below the folder of the server',
      },
      ON_CONFLICT,
    ],
  },
  mail: {
    name: 'Email',
    settings: [
      {
        key: 'server',
        kind: 'text',
        caption: 'Mail server',
        maxLength: 100,
        required: true,
        description:
          'id of a mail server that is set up in the settings of the project, or in the file of servers that the command is given',
      },
      {
        key: 'from',
        kind: 'text',
        caption: 'From',
        maxLength: 254,
        required: true,
        description: 'address of the sender; replies go to it',
      },
      {
        key: 'to',
        kind: 'text',
        caption: 'To',
        maxLength: 4000,
        required: true,
        description:
          'the recipients, separated by commas: addresses, and people and firms of `project.people` by their names; each person gets an email of their own',
      },
      {
        key: 'subject',
        kind: 'text',
        format: 'line',
        caption: 'Subject',
        maxLength: 300,
        required: true,
        initial: '[project.number] [project.name]: [package.name]',
        description: 'a text with fields of project, package and run',
      },
      {
        key: 'text',
        kind: 'text',
        format: 'message',
        caption: 'Text',
        maxLength: 4000,
        description: 'what the email says above the list of its files: a text with fields of project, package and run',
      },
      {
        key: 'files',
        kind: 'choice',
        caption: 'Files',
        description: "`page`: never attached, but on a recipient's page whose link is in the email",
        options: [
          { value: undefined, words: 'attached, or on a page if too large' },
          { value: 'page', words: 'always on a page' },
        ],
      },
      {
        key: 'mostMb',
        kind: 'number',
        caption: 'Largest email, MB',
        min: MIN_MAIL_MB,
        max: MAX_MAIL_MB,
        neutral: USUAL_MAIL_MB,
        absent: `${USUAL_MAIL_MB}`,
        description: `files that would make an email larger are put on a page instead; ${USUAL_MAIL_MB} where it is absent`,
      },
      {
        key: 'pageDays',
        kind: 'number',
        caption: 'Page open for, days',
        min: 1,
        max: MAX_PAGE_DAYS,
        whole: true,
        neutral: USUAL_PAGE_DAYS,
        absent: `${USUAL_PAGE_DAYS}`,
        description: `for how many days files can be downloaded from the page; ${USUAL_PAGE_DAYS} where it is absent`,
      },
      {
        key: 'pagePassword',
        kind: 'choice',
        caption: 'Password of the page',
        description:
          '`true`: the page asks for a password, which is made for each recipient and shown with the delivery',
        options: [
          { value: undefined, words: 'none' },
          { value: true, words: 'one for each recipient' },
        ],
      },
    ],
  },
  plotter: {
    name: 'Plotter',
    settings: [
      {
        key: 'server',
        kind: 'text',
        caption: 'Plotter',
        maxLength: 100,
        required: true,
        description:
          'id of a plotter that is set up in the settings of the project, or in the file of servers that the command is given',
      },
      {
        key: 'media',
        kind: 'text',
        caption: 'Paper',
        maxLength: 300,
        description:
          'what it holds, separated by commas: widths of rolls in mm, and names of sheets (`610, 914, A3`); empty for what the plotter says',
      },
      {
        key: 'marginMm',
        kind: 'number',
        caption: 'Unprintable margin, mm',
        min: 0,
        max: MAX_MARGIN_MM,
        absent: 'as the plotter says',
        description:
          'how much of its paper the plotter cannot print along the edges, mm; whatever lies there is a warning',
      },
      {
        key: 'nesting',
        kind: 'choice',
        caption: 'Pages on a roll',
        description: '`side by side`: pages are laid next to each other to save paper; their order is lost',
        options: [
          { value: undefined, words: 'one after the other' },
          { value: 'side by side', words: 'side by side, to save paper' },
        ],
      },
      {
        key: 'cutLines',
        kind: 'choice',
        caption: 'Cutting lines',
        description: '`true`: thin lines where pages are to be cut apart',
        options: [
          { value: undefined, words: 'none' },
          { value: true, words: 'between pages' },
        ],
      },
      {
        key: 'colours',
        kind: 'choice',
        caption: 'Colours',
        description: '`greys`: the plotter is asked to print in greys',
        options: [
          { value: undefined, words: 'as published' },
          { value: 'greys', words: 'greys' },
        ],
      },
      {
        key: 'copies',
        kind: 'number',
        caption: 'Sets',
        min: 1,
        max: MAX_SETS,
        whole: true,
        neutral: 1,
        absent: '1',
        description: 'how often all pages are printed, set after set',
      },
      {
        key: 'costPerM2',
        kind: 'number',
        caption: 'Cost per m²',
        min: 0,
        max: 1000,
        absent: 'not known',
        description: 'what a square metre of paper costs, printed; for the estimate',
      },
    ],
  },
} as const satisfies Record<string, DestinationKindFacts>;

export type DestinationKind = keyof typeof DESTINATION_KINDS;

/** As many as a package may have. */
export const MAX_DESTINATIONS = 10;

/** Where a package's files are delivered to once they are written. */
export type Destination = {
  [Kind in DestinationKind]: { kind: Kind } & ValuesOf<(typeof DESTINATION_KINDS)[Kind]['settings']>;
}[DestinationKind];

export type Mail = Extract<Destination, { kind: 'mail' }>;
export type Plot = Extract<Destination, { kind: 'plotter' }>;

/** The largest email of a destination, bytes, with its files as they are encoded. */
export function largestMail({ mostMb = USUAL_MAIL_MB }: Mail): number {
  return mostMb * 1e6;
}

/** For how many days the recipient's page of an email is open. */
export function pageDaysOf({ pageDays = USUAL_PAGE_DAYS }: Mail): number {
  return pageDays;
}

/** A destination of a kind as it is offered first. */
export function newDestination(kind: DestinationKind): Destination {
  const settings: readonly Setting[] = DESTINATION_KINDS[kind].settings;
  const initial = settings.flatMap((setting) => {
    if (setting.kind === 'text' && setting.required) return [[setting.key, setting.initial ?? '']];
    return setting.kind === 'choice' && setting.required ? [[setting.key, setting.options[0]!.value]] : [];
  });
  return { kind, ...Object.fromEntries(initial) } as Destination;
}
