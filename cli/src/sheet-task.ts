import {
  contextInPackage,
  drawingsShown,
  preparedSheets,
  sheetInputs,
  titleDrawings,
  type ComposedFacts,
  type PreparedRun,
  type Problem,
  type Sheet,
} from '@folvex/core';
import type { DrawingFile, Press, SheetTask } from '@folvex/press';

/** How a sheet of a prepared run is made from the drawings of its job. */
export function taskOf({ input }: Pick<PreparedRun, 'input'>, sheet: Sheet, drawings: DrawingFile[]): SheetTask {
  const shown = [...drawingsShown(sheet), ...titleDrawings(input.project, sheet)];
  return {
    ...sheetInputs(input, sheet, contextInPackage(sheet, input)),
    drawings: drawings.filter((drawing) => shown.includes(drawing.id)),
    referable: drawings,
  };
}

/** Facts of the composed sheets of a package, for checks, and the reasons why some of them cannot be made. */
export async function composedFacts(
  prepared: PreparedRun,
  drawings: DrawingFile[],
  press: Press,
): Promise<{ pages: Map<string, ComposedFacts>; problems: Problem[] }> {
  const made = await Promise.all(
    preparedSheets(prepared.input).map(
      async (sheet) => [sheet.id, await press.makePage(taskOf(prepared, sheet, drawings))] as const,
    ),
  );
  return {
    pages: new Map(made.flatMap(([id, page]) => (page.ok ? [[id, page.value] as const] : []))),
    problems: made.flatMap(([, page]) => (page.ok ? [] : [page.problem])),
  };
}
