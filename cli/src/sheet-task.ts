import {
  contextInPackage,
  drawingsShown,
  paperOfPage,
  recipeOfPage,
  schedulesOf,
  STANDARD_RECIPE,
  tilingOf,
  titleDrawings,
  type ComposedFacts,
  type PlanInput,
} from '@folvex/core';
import type { DrawingFile, Press, SheetTask } from '@folvex/press';

/** How a sheet of a package is made from the drawings of its job. `planned` is resolved. */
export function taskOf(planned: PlanInput, id: string, drawings: DrawingFile[]): SheetTask {
  const { project, package: pack, recipe = STANDARD_RECIPE } = planned;
  const sheet = planned.sheets.find((candidate) => candidate.id === id)!;
  const shown = [...drawingsShown(sheet), ...titleDrawings(project, sheet)];
  const schedule = schedulesOf(project).find((one) => one.id === recipe.pens);
  const [tiling, onto] = [tilingOf(pack, project), paperOfPage(pack, id, project)];
  return {
    project,
    sheet,
    context: contextInPackage(sheet, planned),
    recipe: recipeOfPage(recipe, pack, id),
    ...(schedule && { schedule }),
    ...(onto ? { onto } : tiling && { tiling }),
    drawings: drawings.filter((drawing) => shown.includes(drawing.id)),
    referable: drawings,
  };
}

/** What composing its sheets tells of a package, for checks; sheets that cannot be made are missing. */
export async function composedFacts(
  planned: PlanInput,
  drawings: DrawingFile[],
  press: Press,
): Promise<Map<string, ComposedFacts>> {
  const made = await Promise.all(
    [...new Set(planned.package.order)].map(async (id) => {
      const page = await press.makePage(taskOf(planned, id, drawings));
      return page.ok ? [[id, page.value] as const] : [];
    }),
  );
  return new Map(made.flat());
}
