import { resizingInWords, resizingOnto } from '../../page/resize';
import { describePaper, paperOfChoice } from '../../paper/sizes';
import { paperOfPage } from '../model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** Sheets that are printed on another paper than their own, where their scales hold no longer. */
export const resizedPages = defineCheck(
  {
    'page.paper': ['stop', 'a page to be printed on a paper that is not there'],
    'page.resized': ['note', 'a page printed on another paper than its own, so that its scales do not hold'],
  },
  forEachSheet((sheet, { package: pack, project, pages }) => {
    const onto = paperOfPage(pack, sheet.id, project);
    if (!onto) {
      const wanted = pack.pages?.[sheet.id]?.paper;
      if (!wanted) return [];
      const sentence = `${nameOf(sheet)} is to be printed on ${wanted.name}, a paper that does not exist in this project; choose another.`;
      return [{ code: 'page.paper', sentence }];
    }
    const paper = pages?.get(sheet.id)?.paper ?? (sheet.paper && paperOfChoice(sheet.paper, project.papers));
    const resizing = paper && resizingOnto(paper, onto);
    if (!resizing) return [];
    const words = resizingInWords(resizing.factor, describePaper(paper), describePaper(resizing.paper));
    const sentence = `${nameOf(sheet)} is not to scale: ${words}. This is printed at its lower edge.`;
    return [{ code: 'page.resized', sentence }];
  }),
);
