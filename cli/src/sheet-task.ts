import {
  contextInPackage,
  drawingsShown,
  layingOf,
  recipeOfPage,
  schedulesOf,
  STANDARD_RECIPE,
  titleDrawings,
  type ComposedFacts,
  type PlanInput,
  type Problem,
} from '@folvex/core';
import type { DrawingFile, Press, SheetTask } from '@folvex/press';

/** How a sheet of a package is made from the drawings of its job. `planned` is resolved. */
export function taskOf(planned: PlanInput, id: string, drawings: DrawingFile[]): SheetTask {
  const { project, package: pack, recipe = STANDARD_RECIPE } = planned;
  const sheet = planned.sheets.find((candidate) => candidate.id === id)!;
  const shown = [...drawingsShown(sheet), ...titleDrawings(project, sheet)];
  const schedule = schedulesOf(project).find((one) => one.id === recipe.pens);
  return {
    project,
    sheet,
    context: contextInPackage(sheet, planned),
    recipe: recipeOfPage(recipe, pack, id),
    ...(schedule && { schedule }),
    ...layingOf(pack, id, project),
    drawings: drawings.filter((drawing) => shown.includes(drawing.id)),
    referable: drawings,
  };
}

/** What composing its sheets tells of a package, for checks, and why some of them cannot be made. */
export async function composedFacts(
  planned: PlanInput,
  drawings: DrawingFile[],
  press: Press,
): Promise<{ pages: Map<string, ComposedFacts>; problems: Problem[] }> {
  const made = await Promise.all(
    [...new Set(planned.package.order)].map(
      async (id) => [id, await press.makePage(taskOf(planned, id, drawings))] as const,
    ),
  );
  return {
    pages: new Map(made.flatMap(([id, page]) => (page.ok ? [[id, page.value] as const] : []))),
    problems: made.flatMap(([, page]) => (page.ok ? [] : [page.problem])),
  };
}
