import { describePaper } from '../../paper/sizes';
import { defineCheck, type FoundProblem } from '../finding';
import { printedPaper } from '../printed-paper';

/** Pages of one file have different papers. */
export const mixedPapers = defineCheck(
  {
    'file.mixed-papers': ['note', 'pages of several sizes in one file'],
  },
  (input, plan) =>
    plan.files.flatMap((file): FoundProblem<'file.mixed-papers'>[] => {
      const papers = new Set(
        file.sheets.flatMap((id) => {
          const own = input.pages?.get(id)?.paper;
          return own ? [describePaper(printedPaper(input, { id }, own).paper, input.project.papers)] : [];
        }),
      );
      if (papers.size < 2) return [];
      const sentence = `${file.path} has pages of ${papers.size} sizes: ${[...papers].join('; ')}.`;
      return [{ code: 'file.mixed-papers', sentence, place: {} }];
    }),
);
