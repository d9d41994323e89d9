import { placeInWords, type Finding, type Problem } from '@folvex/core';

/** How a command ends: all done; stopped or partly failed; not begun, since what it was given cannot be read. */
export const DONE = 0;
export const STOPPED = 1;
export const UNREADABLE = 2;

/** Prints what stops a command. */
export function printProblems(problems: readonly Problem[]): void {
  for (const problem of problems) console.error(`stop ${problem.code}: ${inWords(problem)}`);
}

/** Prints findings and warnings, each once however often it is reported. */
export class WarningPrinter {
  private readonly printed = new Set<string>();

  findings(findings: readonly Finding[]): void {
    for (const finding of findings) this.line(`${finding.severity} ${finding.code}: ${inWords(finding)}`);
  }

  /** Several sheets may show one drawing: what is wrong with it is printed once. */
  warn(problem: Problem): void {
    this.line(`warning ${problem.code}: ${inWords(problem)}`);
  }

  private line(text: string): void {
    if (!this.printed.has(text)) console.error(text);
    this.printed.add(text);
  }
}

function inWords(problem: Pick<Problem, 'sentence' | 'place' | 'count'>): string {
  const place = placeInWords(problem.place);
  const times = problem.count && problem.count > 1 ? ` (${problem.count} times)` : '';
  return `${place ? `${place}: ` : ''}${problem.sentence}${times}`;
}
