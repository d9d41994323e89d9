/** Longest mark of versions, characters. */
export const MAX_VERSION_MARK = 20;

/**
 * Which of some drawings a file is a newer version of; undefined: none. By its name, case-blind; where a project states
 * how versions are marked, also by what its name says in front of the mark. With the mark `_P`, `A-101_P02.dxf` is newer
 * than `A-101_P01.dxf` and than `A-101.dxf`. Of several the one that is listed first.
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

/** A file name in lower case without the last mark of its version and what follows that, up to the extension. */
function withoutVersion(name: string, versionMark: string): string {
  const lower = name.toLowerCase();
  const dot = lower.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [lower.slice(0, dot), lower.slice(dot)] : [lower, ''];
  const at = stem.lastIndexOf(versionMark.toLowerCase());
  // A name cannot be all version.
  return (at > 0 ? stem.slice(0, at).trimEnd() : stem) + extension;
}
