import { height, width } from '../geometry/box';
import { frameBox } from '../paper/frame';
import { NAMED_SIZES, paperNames, paperOfChoice, type PaperChoice, type PaperSize } from '../paper/sizes';
import { drawingArea } from './areas';
import { refuse } from './composed';
import type { ProjectFacts, Sheet } from './model';
import type { SizedView } from './size-view';

/** The paper meant by a choice; throws a `ProblemError` for an unknown name. */
export function choosePaper(
  choice: PaperChoice,
  sheet: Pick<Sheet, 'number'>,
  { papers }: Pick<ProjectFacts, 'papers'>,
): PaperSize {
  const paper = paperOfChoice(choice, papers);
  if (paper) return paper;
  const asked = 'name' in choice ? choice.name : '';
  const sentence = `There is no paper called "${asked}"; use one of ${paperNames(papers).join(', ')}, or a size in mm.`;
  throw refuse('sheet.paper', sentence, sheet);
}

/** The smallest A size, landscape, whose drawing area holds every view at its scale. */
export function smallestPaper(views: readonly SizedView[], sheet: Sheet, project: ProjectFacts): PaperSize {
  const sizes = NAMED_SIZES.filter((size) => size.series === 'ISO A').sort((a, b) => a.short - b.short);
  for (const { long, short } of sizes) {
    const paper = { width: long, height: short };
    const area = drawingArea(frameBox(paper, sheet.frame, sheet.margins), sheet, project);
    const holds = views.every((item) => {
      if (item.scale === undefined) return true;
      const factor = item.mmPerUnit * item.scale;
      const [x, y] = item.view.at === 'centre' ? [area.xmin, area.ymin] : item.view.at;
      return x + width(item.window) * factor <= area.xmax && y + height(item.window) * factor <= area.ymax;
    });
    if (holds) return paper;
  }
  throw refuse(
    'sheet.paper',
    'No A size holds the views at their scales; choose a paper size or a smaller scale.',
    sheet,
  );
}
