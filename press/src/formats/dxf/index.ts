import { readFileSync } from 'node:fs';
import { dxfOf, mainScale, readDxf, type DxfOptions } from '@folvex/core';
import { fontsWith } from '../../typefaces/own';
import { composed, inked, modelsOf } from '../../sheet/compose';
import type { FormatWriter, WriteTask } from '../format';

const MAX_TOLD_WARNINGS = 3;

/** DXF as large as the paper or at true size; read again by the reader that takes in drawings. */
export const dxf: FormatWriter = {
  write: async (task) => {
    const { dxfUnit: unit, dxfTexts, dxfLayers, dxfVersion: version } = task.options;
    const how: DxfOptions = {
      ...(unit && { unit }),
      ...(dxfTexts && { outlines: true }),
      ...(dxfLayers && { layersByPen: true }),
      ...(version && { version }),
    };
    const { page, ...place } = await pageOf(task);
    return Buffer.from(dxfOf(page, fontsWith(task.task.typefaces), { ...how, ...place }));
  },

  verify: async ({ path, options }, proof) => {
    const read = readDxf(new Uint8Array(readFileSync(path)), path);
    if (!read.ok) return [read.problem.sentence];
    const { drawing, warnings } = read;
    proof.layers = drawing.layers.length;
    for (const entity of drawing.spaces[0]!.entities) {
      if (entity.kind === 'text') proof.characters += [...entity.lines.join('')].filter((c) => c.trim()).length;
    }
    const { dxfUnit = 'mm', dxfVersion } = options;
    // That release has no place for the unit.
    if (dxfVersion !== 'R12' && drawing.unit !== dxfUnit)
      return [`Its unit is ${drawing.unit ?? 'not said'}, not ${dxfUnit}.`];
    return warnings.slice(0, MAX_TOLD_WARNINGS).map(({ sentence }) => sentence);
  },
};

/** What is written of a sheet, and where it lies. A sheet that shows nothing at a scale is as large as its paper. */
async function pageOf({
  sheet,
  task,
  options,
}: WriteTask): Promise<Pick<DxfOptions, 'x' | 'y' | 'enlarged'> & { page: PageOfSheet }> {
  const { dxfSize, dxfColours } = options;
  const look = (page: PageOfSheet): PageOfSheet => (dxfColours === 'drawn' ? page : inked(page, task));
  if (dxfSize === 'model') {
    const models = await modelsOf(task);
    if (models) return { ...models, page: look(models.page) };
  }
  const scale = dxfSize === 'sheet' ? mainScale(sheet) : undefined;
  if (scale === undefined) return { page: dxfColours === 'drawn' ? sheet.page : sheet.printed };
  const enlarged = 1 / scale;
  const everything = task.recipe.layers === 'all';
  return { page: look((await composed(task, { everything, enlarged })).page), enlarged };
}

type PageOfSheet = WriteTask['sheet']['page'];
