import { ProblemError, type Problem } from '@folvex/core';

/** A refusal with its HTTP status. */
export class Refused extends ProblemError {
  constructor(
    readonly status: number,
    code: string,
    sentence: string,
    place: Problem['place'] = {},
  ) {
    super({ code, sentence, place });
  }
}

export function notFound(what: string): Refused {
  return new Refused(404, 'not-found', `${what} is not there any more; go back and load the page again.`);
}
