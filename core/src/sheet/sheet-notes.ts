import type { ProblemCode } from '../problem-codes';
import type { Box } from '../geometry/box';
import type { PageBuilder } from '../page/builder';
import type { Problem } from '../problem';
import type { ComposeInput } from './composed';
import { markKey } from './context';
import { drawFitted } from './fitted';
import { drawNotes, type PlacedNote } from './notes/draw';
import { noteStylesOf } from './notes/model';

/** Draws what is written and drawn on a sheet; what it refers to and is not there comes back in `warnings`. */
export function drawSheetNotes(
  builder: PageBuilder,
  { sheet, project, fonts, source, context }: ComposeInput,
  warnings: Problem[],
): PlacedNote[] {
  const place = { sheet: sheet.number };
  const gone = (code: ProblemCode, sentence: string): void => void warnings.push({ code, sentence, place });
  const pen = {
    builder,
    fonts,
    styles: noteStylesOf(project),
    words: (refers: Parameters<typeof markKey>[0]) => {
      const words = context?.marks?.[markKey(refers)];
      if (!words) gone('mark.dangling', 'A mark refers to a sheet or view that is not there; choose another for it.');
      return words;
    },
    drawn: (id: string, box: Box): void => {
      const found = source(id);
      if (found) return drawFitted(builder, fonts, found.drawing, box);
      gone('note.drawing', `A note shows the drawing "${id}", which does not exist; choose another for it.`);
    },
  };
  return drawNotes(pen, sheet.notes ?? []);
}
