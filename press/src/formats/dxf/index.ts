import { readFileSync } from 'node:fs';
import { dxfOf, mainScale, readDxf, type Drawing, type DxfOptions, type Entity } from '@folvex/core';
import { fontsWith } from '../../typefaces/own';
import { composeAndInk, composed, inked, modelsOf } from '../../sheet/compose';
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
    proof.characters += charactersOf(drawing, drawing.spaces[0]!.entities);
    const { dxfUnit = 'mm', dxfVersion } = options;
    // That release has no place for the unit.
    if (dxfVersion !== 'R12' && drawing.unit !== dxfUnit)
      return [`Its unit is ${drawing.unit ?? 'not said'}, not ${dxfUnit}.`];
    return warnings.slice(0, MAX_TOLD_WARNINGS).map(({ sentence }) => sentence);
  },
};

/** Characters of all texts, in blocks too: written blocks hold no others. */
function charactersOf({ blocks }: Drawing, entities: readonly Entity[]): number {
  const texts = entities.flatMap((entity) =>
    entity.kind === 'insert' ? (blocks.get(entity.block)?.entities ?? []) : entity,
  );
  const characters = texts.map((entity) => (entity.kind === 'text' ? [...entity.lines.join('')] : []));
  return characters.flat().filter((character) => character.trim()).length;
}

/** What is written of a sheet, and where it lies. A sheet that shows nothing at a scale is as large as its paper. */
async function pageOf({
  sheet,
  task,
  options,
}: WriteTask): Promise<Pick<DxfOptions, 'x' | 'y' | 'enlarged'> & { page: PageOfSheet }> {
  const { dxfSize, dxfColours, dxfBlocks } = options;
  const how = { everything: task.recipe.layers === 'all', withBlocks: dxfBlocks === 'kept' };
  const look = (page: PageOfSheet): PageOfSheet => (dxfColours === 'drawn' ? page : inked(page, task));
  if (dxfSize === 'model') {
    const models = await modelsOf(task, how);
    if (models) return { ...models, page: look(models.page) };
  }
  const scale = dxfSize === 'sheet' ? mainScale(sheet) : undefined;
  if (scale === undefined) {
    const { page, printed } = how.withBlocks ? await composeAndInk(task, how) : sheet;
    return { page: dxfColours === 'drawn' ? page : printed };
  }
  const enlarged = 1 / scale;
  return { page: look((await composed(task, { ...how, enlarged })).page), enlarged };
}

type PageOfSheet = WriteTask['sheet']['page'];
