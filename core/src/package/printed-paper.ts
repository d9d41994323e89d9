import { resizingOnto } from '../page/resize';
import type { PaperSize } from '../paper/sizes';
import type { Sheet } from '../sheet/model';
import { placementOfPage } from './model';
import type { PlanInput } from './plan';

/** The paper that a sheet is printed on, mm, and how many times as large as it was composed on its own. */
export function printedPaper(
  { package: pack, project }: Pick<PlanInput, 'package' | 'project'>,
  { id }: Pick<Sheet, 'id'>,
  own: PaperSize,
): { paper: PaperSize; factor: number } {
  const onto = placementOfPage(pack, id, project);
  const resizing = onto && resizingOnto(own, onto);
  return resizing ? { paper: resizing.paper, factor: resizing.factor } : { paper: own, factor: 1 };
}
