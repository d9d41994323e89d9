import { IDENTITY, multiply, scaling, translation, type Affine } from '../geometry/affine';
import { resizingOnto } from '../page/resize';
import type { PaperSize } from '../paper/sizes';
import type { Sheet } from '../sheet/model';
import { placementOfPage } from './model';
import type { PlanInput } from './plan';

/** The paper that a sheet is printed on, mm, how many times as large as it was composed, and where what is on it comes to lie. */
export function printedPaper(
  { package: pack, project }: Pick<PlanInput, 'package' | 'project'>,
  { id }: Pick<Sheet, 'id'>,
  own: PaperSize,
): { paper: PaperSize; factor: number; map: Affine } {
  const onto = placementOfPage(pack, id, project);
  const resizing = onto && resizingOnto(own, onto);
  if (!resizing) return { paper: own, factor: 1, map: IDENTITY };
  const { paper, factor, dx, dy } = resizing;
  return { paper, factor, map: multiply(translation(dx, dy), scaling(factor)) };
}
