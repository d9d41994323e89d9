import { resizingOnto, type Resizing } from '../page/resize';
import type { PaperSize } from '../paper/sizes';
import type { ComposeInput } from './composed';
import { stampsOn, type PrintedStamp } from './stamps';

/** How a page of a paper goes on the one that it is printed on, and the stamps that follow from it. */
export function printing(
  { onto, context }: ComposeInput,
  paper: PaperSize,
): { resizing?: Resizing; stamps: readonly PrintedStamp[] } {
  const resizing = onto && resizingOnto(paper, onto);
  return { ...(resizing && { resizing }), stamps: stampsOn(paper, resizing, context?.stamps) };
}
