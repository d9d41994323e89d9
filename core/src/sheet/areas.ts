import { height, width, type Box } from '../geometry/box';
import { frameBox } from '../paper/frame';
import type { PaperSize } from '../paper/sizes';
import type { ProjectFacts, Sheet } from './model';
import { templateOf } from './title/fields';
import { areaOutsideBlock } from './title/template';

/** Space left around views when the paper is chosen for them, and inside the frame when a scale is fitted, mm. */
const ROOM_MM = 10;

/** How large a view may be, mm, to be fitted to a paper: inside the frame, above the title block, with space around. */
export function viewSizeOnPaper(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'margins' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): PaperSize {
  return viewSizeIn(areaForViews(paper, sheet, project));
}

/** Where views go on a paper, mm: inside the frame, clear of the title block. */
export function areaForViews(
  paper: PaperSize,
  sheet: Pick<Sheet, 'frame' | 'margins' | 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): Box {
  return drawingArea(frameBox(paper, sheet.frame, sheet.margins), sheet, project);
}

/** How large a view may be, mm, to be fitted into an area. */
export function viewSizeIn(area: Box): PaperSize {
  return { width: width(area) - 2 * ROOM_MM, height: height(area) - 2 * ROOM_MM };
}

/** Where views go when they are centred: inside the frame, clear of the title block if there is one. */
export function drawingArea(
  frame: Box,
  sheet: Pick<Sheet, 'titleBlock'>,
  project: Pick<ProjectFacts, 'titleBlocks'>,
): Box {
  const template = sheet.titleBlock && templateOf(project, sheet.titleBlock);
  return template ? areaOutsideBlock(template, frame) : frame;
}
