import type { Option, Setting, ValuesOf } from '../settings/descriptor';

interface DestinationKindFacts {
  /** In the choice of destinations. */
  name: string;
  /** What one of this kind states; rules among them are resolved with the fields of project, package and run. */
  settings: readonly Setting[];
}

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
        description: 'id of a transfer server that is set up in the settings of the project; the command has none',
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
    ],
  },
} as const satisfies Record<string, DestinationKindFacts>;

export type DestinationKind = keyof typeof DESTINATION_KINDS;

/** What to do where the destination already has another file of the same name. */
export const CONFLICT_OPTIONS = [
  { value: 'stop', words: 'do not begin' },
  { value: 'both', words: 'keep both: the new one gets a number' },
  { value: 'rename', words: 'rename the older one with its date' },
  { value: 'replace', words: 'replace it' },
] as const satisfies readonly Option[];

export type ConflictPolicy = (typeof CONFLICT_OPTIONS)[number]['value'];

/** As many as a package may have. */
export const MAX_DESTINATIONS = 10;

/** What destinations of all kinds state. */
export const DESTINATION_OPTIONS = [
  {
    key: 'onConflict',
    kind: 'choice',
    caption: 'If a file of that name exists',
    required: true,
    description:
      'what to do where another file has the name already: `stop` the run, keep `both` and number the new one, `rename` the older one with its date, `replace` it',
    options: CONFLICT_OPTIONS,
  },
] as const satisfies readonly Setting[];

/** Where a package's files are delivered to once they are written. */
export type Destination = {
  [Kind in DestinationKind]: { kind: Kind } & ValuesOf<(typeof DESTINATION_KINDS)[Kind]['settings']> &
    ValuesOf<typeof DESTINATION_OPTIONS>;
}[DestinationKind];

/** A destination of a kind as it is offered first. */
export function newDestination(kind: DestinationKind): Destination {
  const settings: readonly Setting[] = [...DESTINATION_KINDS[kind].settings, ...DESTINATION_OPTIONS];
  const initial = settings.flatMap((setting) => {
    if (setting.kind === 'text' && setting.required) return [[setting.key, setting.initial ?? '']];
    return setting.kind === 'choice' && setting.required ? [[setting.key, setting.options[0]!.value]] : [];
  });
  return { kind, ...Object.fromEntries(initial) } as Destination;
}
