import { beyondPaper, isToScale, resizingInWords, resizingOnto } from '../../page/resize';
import { describePaper, paperOfChoice } from '../../paper/sizes';
import { placementOfPage } from '../model';
import { nameOf, forEachSheet, defineCheck } from '../finding';

/** Less than this off the paper is nothing, mm. */
const TOLERANCE_MM = 0.5;

/** Sheets that are put on paper otherwise than as they are: where their scales hold no longer, or not all of them is on it. */
export const resizedPages = defineCheck(
  {
    'page.paper': ['stop', 'a page to be printed on a paper that is not there'],
    'page.resized': ['note', 'a page printed larger or smaller than it is, so that its scales do not hold'],
    'page.cut': ['warning', 'a page put on a paper that is too small for it, or moved off its edge'],
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
    const cut = `${nameOf(sheet)} reaches ${beyond.toFixed(1)} mm beyond the ${describePaper(resizing.paper)} paper that it is put on; make it smaller, or move it.`;
    return [
      ...(isToScale(resizing.factor) ? [] : [{ code: 'page.resized' as const, sentence: resized }]),
      ...(beyond > TOLERANCE_MM ? [{ code: 'page.cut' as const, sentence: cut }] : []),
    ];
  }),
);
