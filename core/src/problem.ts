import type { ProblemCode } from './problem-codes';

/** Where something was found, as far as it is known. */
export interface Place {
  file?: string;
  /** Line of a text file, counted from 1. */
  line?: number;
  layer?: string;
  /** Handle of an entity, as the file writes it. */
  handle?: string;
  /** Where in the drawing, in its unit and coordinates (of its block, for what lies in one). */
  at?: [x: number, y: number];
  /** Path of a value in a job file, such as `sheets[2].views[0].scale`. */
  path?: string;
  sheet?: string;
}

/** Something a person should know: a stable code, a place, and one sentence that says what to do. */
export interface Problem {
  code: ProblemCode;
  sentence: string;
  place: Place;
  /** How many times it was met; 1 when absent. */
  count?: number;
  /** Name of a missing file that the problem is about: once the project has that file, there is no problem. */
  refersTo?: string;
}

/** Thrown inside core and its hosts where a step cannot go on; carries what the person will read. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.sentence);
    this.name = 'ProblemError';
  }
}

/** Either a value or the reason why there is none. */
export type Outcome<T> = { ok: true; value: T } | { ok: false; problem: Problem };

/** The place in words, for a terminal line: `walls.dxf, line 12, layer A-WALL`. */
export function placeInWords(place: Place): string {
  return [
    place.file,
    place.path,
    place.sheet && `sheet ${place.sheet}`,
    place.line !== undefined && `line ${place.line}`,
    place.layer && `layer ${place.layer}`,
    place.handle && `entity ${place.handle}`,
  ]
    .filter(Boolean)
    .join(', ');
}
