/** Longest version mark, characters. */
export const MAX_VERSION_MARK = 20;

/**
 * The drawing that a file is a newer version of; undefined: none. That is the one of the same name, case-blind; failing
 * that, the first one whose name is the same up to the version mark. With the mark `_P`, `A-101_P02.dxf` is a newer version
 * of `A-101_P01.dxf`, and of `A-101.dxf`.
 */
export function olderVersion<T extends { name: string }>(
  drawings: readonly T[],
  name: string,
  versionMark = '',
): T | undefined {
  const same = drawings.find((one) => one.name.toLowerCase() === name.toLowerCase());
  if (same || versionMark === '') return same;
  const wanted = withoutVersion(name, versionMark);
  return drawings.find((one) => withoutVersion(one.name, versionMark) === wanted);
}

/** A file name in lower case without its last version mark and what follows that, extension kept. */
function withoutVersion(name: string, versionMark: string): string {
  const lower = name.toLowerCase();
  const dot = lower.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [lower.slice(0, dot), lower.slice(dot)] : [lower, ''];
  const at = stem.lastIndexOf(versionMark.toLowerCase());
  // A name that begins with the mark would have nothing left.
  return (at > 0 ? stem.slice(0, at).trimEnd() : stem) + extension;
}
