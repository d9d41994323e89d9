import { beyondPaper, isToScale, resizingInWords, resizingOnto } from '../../page/resize';
import { describePaper, paperOfChoice } from '../../paper/sizes';
import { placementOfPage } from '../model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** A sheet may reach so far beyond its paper, mm: nothing of it is seen to be missing. */
const TOLERANCE_MM = 0.5;

/** Sheets that are printed on another paper: one that does not exist, at another scale, or too small for all of the sheet. */
export const resizedPages = defineCheck(
  {
    'page.paper': ['stop', 'a page to be printed on a paper that the project does not have'],
    'page.resized': ['note', 'a page printed larger or smaller than it is, so that its scales do not hold'],
    'page.cut': ['warning', 'a page printed on a paper that is too small for it, or moved beyond its edge'],
  },
  forEachSheet((sheet, { package: pack, project, pages }) => {
    const wanted = pack.pages?.[sheet.id]?.paper;
    if (wanted && !paperOfChoice(wanted, project.papers)) {
      const sentence = `${nameOf(sheet)} is to be printed on ${wanted.name}, a paper that does not exist in this project; choose another.`;
      return [{ code: 'page.paper', sentence }];
    }
    const onto = placementOfPage(pack, sheet.id, project);
    const paper = pages?.get(sheet.id)?.paper ?? (sheet.paper && paperOfChoice(sheet.paper, project.papers));
    const resizing = onto && paper && resizingOnto(paper, onto);
    if (!resizing) return [];
    const words = resizingInWords(resizing.factor, describePaper(paper), describePaper(resizing.paper));
    const resized = `${nameOf(sheet)} is not to scale: ${words}. This is printed at its lower edge.`;
    const beyond = beyondPaper(paper, resizing);
    const cut = `${nameOf(sheet)} reaches ${beyond.toFixed(1)} mm beyond the ${describePaper(resizing.paper)} paper that it is printed on; make it smaller, or move it.`;
    return [
      ...(isToScale(resizing.factor) ? [] : [{ code: 'page.resized' as const, sentence: resized }]),
      ...(beyond > TOLERANCE_MM ? [{ code: 'page.cut' as const, sentence: cut }] : []),
    ];
  }),
);
