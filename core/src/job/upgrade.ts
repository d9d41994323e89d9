/** The version of the job file that this code writes; older ones are upgraded when they are read. */
export const JOB_FILE_VERSION = 2;

type Json = Readonly<Record<string, unknown>>;

/** Brings a parsed job file of an older version up to date; anything else is returned as it is. */
export function upgradeJobFile(value: Json): Json {
  if (value['folvex'] !== 1) return value;
  const packages = value['packages'];
  const upgraded = Array.isArray(packages)
    ? packages.map((pack) => (isObject(pack) ? upgradePackage(pack) : pack))
    : packages;
  return { ...value, folvex: JOB_FILE_VERSION, ...(packages !== undefined && { packages: upgraded }) };
}

/** A package of version 1: other formats were called `beside`, and the conflict policy of a destination `there`. */
export function upgradePackage(pack: Json): Json {
  const { pages, destination } = pack;
  return {
    ...renamed(pack, 'beside', 'extraFormats'),
    ...(isObject(pages) && {
      pages: mapValues(pages, (page) => (isObject(page) ? renamed(page, 'beside', 'extraFormats') : page)),
    }),
    ...(isObject(destination) && { destination: renamed(destination, 'there', 'onConflict') }),
  };
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
