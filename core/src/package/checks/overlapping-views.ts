import { height, intersection, width } from '../../geometry/box';
import { nameOf, forEachPage, viewOn, defineCheck } from '../finding';

/** Views that share less of the paper, mm either way, only touch. */
const TOUCHING_MM = 1;

/** Two views overlap. */
export const overlappingViews = defineCheck(
  {
    'view.overlap': ['note', 'two views that overlap'],
  },
  forEachPage(({ views }, sheet) =>
    views.flatMap((view, i) =>
      views.slice(i + 1).map((other) => {
        const both = intersection(view.box, other.box);
        if (!(width(both) > TOUCHING_MM && height(both) > TOUCHING_MM)) return undefined;
        const [one, two] = [viewOn(sheet, view.id), viewOn(sheet, other.id).replace(/^The/, 'the')];
        const sentence = `${one} and ${two} on ${nameOf(sheet)} overlap by ${Math.round(width(both))} × ${Math.round(height(both))} mm; move one of them.`;
        return { code: 'view.overlap', sentence };
      }),
    ),
  ),
);
