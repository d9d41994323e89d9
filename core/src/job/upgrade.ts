type Json = Readonly<Record<string, unknown>>;

/** Brings a package of version `i + 1` to the next one, by index `i`; packages are stored by the server too. */
export const PACKAGE_UPGRADES: readonly ((pack: Json) => Json)[] = [
  withTodaysNames,
  withDestinationKind,
  withDestinations,
];

/** The version of the job file that this code writes; older ones are upgraded when they are read. */
export const JOB_FILE_VERSION = PACKAGE_UPGRADES.length + 1;

/** Brings a parsed job file of an older version up to date; anything else is returned as it is. */
export function upgradeJobFile(value: Json): Json {
  const version = value['folvex'];
  if (!Number.isInteger(version) || Number(version) < 1 || Number(version) >= JOB_FILE_VERSION) return value;
  const upgrades = PACKAGE_UPGRADES.slice(Number(version) - 1);
  const packages = value['packages'];
  const upgraded = Array.isArray(packages)
    ? packages.map((pack) => (isObject(pack) ? upgrades.reduce((now, upgrade) => upgrade(now), pack) : pack))
    : packages;
  return { ...value, folvex: JOB_FILE_VERSION, ...(packages !== undefined && { packages: upgraded }) };
}

/** In version 1 other formats were called `beside`, and the conflict policy of a destination `there`. */
function withTodaysNames(pack: Json): Json {
  const { pages, destination } = pack;
  return {
    ...renamed(pack, 'beside', 'extraFormats'),
    ...(isObject(pages) && {
      pages: mapValues(pages, (page) => (isObject(page) ? renamed(page, 'beside', 'extraFormats') : page)),
    }),
    ...(isObject(destination) && { destination: renamed(destination, 'there', 'onConflict') }),
  };
}

/** In version 2 a folder was the only kind of destination, so the kind was not stated. */
function withDestinationKind(pack: Json): Json {
  const { destination } = pack;
  if (!isObject(destination)) return pack;
  return { ...pack, destination: { kind: 'folder', ...destination } };
}

/** In version 3 a package had one destination. */
function withDestinations(pack: Json): Json {
  if (!('destination' in pack)) return pack;
  const { destination, ...rest } = pack;
  return isObject(destination) ? { ...rest, destinations: [destination] } : rest;
}

function renamed(value: Json, from: string, to: string): Json {
  if (!(from in value)) return value;
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key === from ? to : key, one]));
}

function mapValues(value: Json, map: (one: unknown) => unknown): Json {
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, map(one)]));
}

function isObject(value: unknown): value is Json {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
