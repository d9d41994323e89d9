import type { Box } from '../../geometry/box';
import { nameOf, forEachPage, viewOn, defineCheck } from '../finding';

/** Views that share less of the paper, mm either way, only touch. */
const TOUCHING_MM = 1;

/** A view reaches beyond the paper, which cuts it. */
export const cutViews = defineCheck(
  {
    'view.cut': ['warning', 'a view that reaches beyond the paper'],
  },
  forEachPage(({ views, paper, outside }, sheet) =>
    views.map(({ id, box }) => {
      const beyond = beyondBy(box, paper.width, paper.height);
      // A window may be wider than what is drawn in it.
      if (beyond <= TOUCHING_MM || outside.count === 0) return undefined;
      const label = viewOn(sheet, id);
      const sentence = `${label} on ${nameOf(sheet)} reaches ${Math.round(beyond)} mm beyond the paper and is cut; move it, or choose a larger paper.`;
      return { code: 'view.cut', sentence };
    }),
  ),
);

function beyondBy({ xmin, ymin, xmax, ymax }: Box, paperWidth: number, paperHeight: number): number {
  return Math.max(0, -xmin, -ymin, xmax - paperWidth, ymax - paperHeight);
}
