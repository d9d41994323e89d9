/** True where a name is as a pattern says, case-blind: `*` stands for any letters, `?` for one. */
export function matchesPattern(pattern: string, name: string): boolean {
  const [p, n] = [pattern.toLowerCase(), name.toLowerCase()];
  let [at, place] = [0, 0];
  // Position of the last star, and how much of the name it covers so far.
  let [star, covered] = [-1, 0];
  while (place < n.length) {
    if (at < p.length && (p[at] === '?' || (p[at] === n[place] && p[at] !== '*'))) {
      at++;
      place++;
    } else if (p[at] === '*') {
      [star, covered] = [at++, place];
    } else if (star >= 0) {
      at = star + 1;
      place = ++covered;
    } else return false;
  }
  while (p[at] === '*') at++;
  return at === p.length;
}
