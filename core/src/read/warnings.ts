import type { ProblemCode } from '../problem-codes';
import type { Place, Problem } from '../problem';

/** Gathers warnings of one file: the same one met again is counted, with the place of its first occurrence kept. */
export class Warnings {
  private readonly found = new Map<string, Problem>();

  constructor(private readonly file: string) {}

  /** `refersTo`: name of the missing file that the warning is about. */
  add(code: ProblemCode, sentence: string, place: Place = {}, refersTo?: string): void {
    const key = `${code}\n${sentence}`;
    const known = this.found.get(key);
    if (known) known.count = (known.count ?? 1) + 1;
    else {
      const problem = { code, sentence, place: { file: this.file, ...place }, count: 1 };
      this.found.set(key, { ...problem, ...(refersTo && { refersTo }) });
    }
  }

  list(): Problem[] {
    return [...this.found.values()];
  }
}
