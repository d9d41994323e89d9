import { PACKAGE_UPGRADES } from '@folvex/core';

type Json = Readonly<Record<string, unknown>>;

/** A kind of document that is stored as JSON. */
export interface StoredKindFacts {
  /** The version that this code reads and writes. */
  version: number;
  /** Brings a value of version `i + 1` to the next one, by index `i`. */
  upgrades: readonly ((value: unknown) => unknown)[];
  /** Whether a value has what everybody who reads it relies on. */
  isValid(value: unknown): boolean;
}

/**
 * Everything that is stored as JSON, with the steps from its first version to today's. To change the shape of one: add a
 * step at the end of its `upgrades` and raise its version; the test with a database of an early version must still pass.
 */
export const STORED_KINDS = {
  'project facts': { version: 1, upgrades: [], isValid: has({ number: 'string', name: 'string', fields: 'object' }) },
  recipes: { version: 1, upgrades: [], isValid: isListOf(has({ id: 'string', name: 'string', colour: 'string' })) },
  'group settings': { version: 1, upgrades: [], isValid: has({}) },
  'drawing facts': {
    version: 1,
    upgrades: [],
    isValid: has({ format: 'string', layers: 'object', layouts: 'object' }),
  },
  windows: { version: 1, upgrades: [], isValid: isListOf(has({})) },
  sheet: { version: 1, upgrades: [], isValid: has({ id: 'string', number: 'string', views: 'object' }) },
  package: {
    version: PACKAGE_UPGRADES.length + 1,
    upgrades: PACKAGE_UPGRADES.map(asObject),
    isValid: has({ id: 'string', name: 'string', order: 'object', names: 'object' }),
  },
  'sheet edits': { version: 1, upgrades: [], isValid: isListOf(isEdit) },
  'settings edit': { version: 1, upgrades: [], isValid: isEdit },
  'package edit': {
    version: PACKAGE_UPGRADES.length + 1,
    upgrades: PACKAGE_UPGRADES.map((upgrade) => asObject((edit) => eachSide(edit, upgrade))),
    isValid: isEdit,
  },
  'run input': {
    version: PACKAGE_UPGRADES.length + 1,
    upgrades: PACKAGE_UPGRADES.map((upgrade) => asObject((input) => upgradeRunInput(input, upgrade))),
    isValid: has({ project: 'object', package: 'object', recipe: 'object', sheets: 'object', plan: 'object' }),
  },
  destination: { version: 1, upgrades: [], isValid: has({ kind: 'string' }) },
  issue: { version: 1, upgrades: [], isValid: has({ id: 'string', number: 'number', sheets: 'object' }) },
} as const satisfies Record<string, StoredKindFacts>;

export type StoredKind = keyof typeof STORED_KINDS;

/** A value of an earlier version as it is today. */
export function upgraded(kind: StoredKind, from: number, value: unknown): unknown {
  const { upgrades }: StoredKindFacts = STORED_KINDS[kind];
  return upgrades.slice(from - 1).reduce((now, upgrade) => upgrade(now), value);
}

function isObject(value: unknown): value is Json {
  return typeof value === 'object' && value !== null;
}

function has(types: Readonly<Record<string, 'string' | 'number' | 'object'>>): (value: unknown) => boolean {
  return (value) =>
    isObject(value) && Object.entries(types).every(([key, type]) => typeof value[key] === type && value[key] !== null);
}

function isListOf(isItem: (value: unknown) => boolean): (value: unknown) => boolean {
  return (value) => Array.isArray(value) && value.every(isItem);
}

/** What was changed, before and after; null on the side where it is not there. */
function isEdit(value: unknown): boolean {
  return isObject(value) && 'before' in value && 'after' in value;
}

function asObject(upgrade: (value: Json) => unknown): (value: unknown) => unknown {
  return (value) => (isObject(value) ? upgrade(value) : value);
}

function eachSide(edit: Json, upgrade: (value: Json) => unknown): unknown {
  const side = (key: string): unknown => (isObject(edit[key]) ? upgrade(edit[key]) : edit[key]);
  return { ...edit, before: side('before'), after: side('after') };
}

/** A run's input with its package upgraded; early versions kept the folder that it is delivered to by itself. */
function upgradeRunInput({ folder, destination, ...input }: Json, upgrade: (pack: Json) => Json): Json {
  const pack = upgrade(input['package'] as Json);
  // The package's upgrades apply to its destination too.
  const upgraded = { ...input, ...(isObject(destination) && upgrade({ destination })), package: pack };
  if (typeof folder !== 'string' || !isObject(pack['destination'])) return upgraded;
  return 'kind' in pack['destination']
    ? { ...upgraded, destination: { ...pack['destination'], folder } }
    : { ...upgraded, folder };
}
