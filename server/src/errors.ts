import { ProblemError, type Problem, type ProblemCode } from '@folvex/core';

/** A refusal with its HTTP status. */
export class Refused extends ProblemError {
  constructor(
    readonly status: number,
    code: ProblemCode,
    sentence: string,
    place: Problem['place'] = {},
  ) {
    super({ code, sentence, place });
  }
}

export function notFound(what: string): Refused {
  return new Refused(404, 'not-found', `${what} no longer exists; go back and reload the page.`);
}
