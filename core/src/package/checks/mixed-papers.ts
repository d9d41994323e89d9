import { describePaper } from '../../paper/sizes';
import { type Check, type Finding } from './finding';
import { printedOn } from './printed';

/** Pages of one file have different papers. */
export const mixedPapers: Check = (input, plan) =>
  plan.files.flatMap((file): Finding[] => {
    const papers = new Set(
      file.sheets.flatMap((id) => {
        const own = input.pages?.get(id)?.paper;
        return own ? [describePaper(printedOn(input, { id }, own).paper, input.project.papers)] : [];
      }),
    );
    if (papers.size < 2) return [];
    const sentence = `${file.path} has pages of ${papers.size} sizes: ${[...papers].join('; ')}.`;
    return [{ code: 'file.mixed-papers', severity: 'note', sentence, place: {} }];
  });
