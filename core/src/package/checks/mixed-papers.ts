import { describePaper } from '../../paper/sizes';
import { paperOfPage } from '../model';
import { type Check, type Finding } from './finding';

/** Pages of one file have different papers. */
export const mixedPapers: Check = (input, plan) =>
  plan.files.flatMap((file): Finding[] => {
    const papers = new Set(
      file.sheets.flatMap((id) => {
        const paper = paperOfPage(input.package, id, input.project) ?? input.pages?.get(id)?.paper;
        return paper ? [describePaper(paper, input.project.papers)] : [];
      }),
    );
    if (papers.size < 2) return [];
    const sentence = `${file.path} has pages of ${papers.size} sizes: ${[...papers].join('; ')}.`;
    return [{ code: 'file.mixed-papers', severity: 'note', sentence, place: {} }];
  });
