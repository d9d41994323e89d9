/** A path relative to the folder of a file; both with slashes, from one folder. */
export function relativePath(file: string, target: string): string {
  const [here, there] = [file.split('/').slice(0, -1), target.split('/')];
  let shared = 0;
  while (shared < here.length && shared < there.length - 1 && here[shared] === there[shared]) shared++;
  return [...here.slice(shared).map(() => '..'), ...there.slice(shared)].join('/');
}

/** A path that a file names, relative to the folder that the file's own path is relative to. */
export function joinedPath(file: string, target: string): string {
  const parts = file.split('/').slice(0, -1);
  for (const part of target.replaceAll('\\', '/').split('/')) {
    if (part === '..') parts.pop();
    else if (part !== '.' && part !== '') parts.push(part);
  }
  return parts.join('/');
}
