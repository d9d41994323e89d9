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
import type { DrawingFile, Press, SheetTask, TypefaceFile } from '@folvex/press';

/** The files that the sheets of a job are made from. */
export interface JobFiles {
  drawings: DrawingFile[];
  typefaces: TypefaceFile[];
}

/** How a sheet of a prepared run is made from the files of its job. */
export function taskOf(
  { input }: Pick<PreparedRun, 'input'>,
  sheet: Sheet,
  { drawings, typefaces }: JobFiles,
): SheetTask {
  const shown = [...drawingsShown(sheet), ...titleDrawings(input.project, sheet)];
  return {
    ...sheetInputs(input, sheet, contextInPackage(sheet, input)),
    drawings: drawings.filter((drawing) => shown.includes(drawing.id)),
    referable: drawings,
    typefaces,
  };
}

/** Facts of the composed sheets of a package, for checks, and the reasons why some of them cannot be made. */
export async function composedFacts(
  prepared: PreparedRun,
  files: JobFiles,
  press: Press,
): Promise<{ pages: Map<string, ComposedFacts>; problems: Problem[] }> {
  const made = await Promise.all(
    preparedSheets(prepared.input).map(
      async (sheet) => [sheet.id, await press.makePage(taskOf(prepared, sheet, files))] as const,
    ),
  );
  return {
    pages: new Map(made.flatMap(([id, page]) => (page.ok ? [[id, page.value] as const] : []))),
    problems: made.flatMap(([, page]) => (page.ok ? [] : [page.problem])),
  };
}
