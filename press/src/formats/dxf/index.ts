import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import {
  dxfOf,
  FORMATS,
  legalName,
  mainScale,
  readDxf,
  type Drawing,
  type DxfOptions,
  type Entity,
} from '@folvex/core';
import { fontsWith } from '../../typefaces/own';
import { composeAndInk, composed, inked, modelsOf } from '../../sheet/compose';
import { sha256 } from '../../files/whole-file';
import { pagePictures } from '../page-pictures';
import type { FormatWriter, WriteTask } from '../format';

const MAX_TOLD_WARNINGS = 3;
/** Digits of a picture's hash in its file name, so that different ones do not meet. */
const HASH_DIGITS = 8;

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
    const { page, pictureScale, ...place } = await pageOf(task);
    const pictures = await linkedPictures(task, page, pictureScale);
    return Buffer.from(dxfOf(page, fontsWith(task.task.typefaces), { ...how, ...place, pictures }));
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
    // The pictures are in files of their own.
    const wrong = warnings.filter(({ code }) => code !== 'dxf.picture');
    return wrong.slice(0, MAX_TOLD_WARNINGS).map(({ sentence }) => sentence);
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
}: WriteTask): Promise<Pick<DxfOptions, 'x' | 'y' | 'enlarged'> & { page: PageOfSheet; pictureScale: number }> {
  const { dxfSize, dxfColours, dxfBlocks } = options;
  const how = { everything: task.recipe.layers === 'all', withBlocks: dxfBlocks === 'kept' };
  const look = (page: PageOfSheet): PageOfSheet => (dxfColours === 'drawn' ? page : inked(page, task));
  if (dxfSize === 'model') {
    const models = await modelsOf(task, how);
    if (models) return { ...models, page: look(models.page), pictureScale: mainScale(sheet) ?? 1 };
  }
  const scale = dxfSize === 'sheet' ? mainScale(sheet) : undefined;
  if (scale === undefined) {
    const { page, printed } = how.withBlocks ? await composeAndInk(task, how) : sheet;
    return { page: dxfColours === 'drawn' ? page : printed, pictureScale: 1 };
  }
  const enlarged = 1 / scale;
  return { page: look((await composed(task, { ...how, enlarged })).page), enlarged, pictureScale: scale };
}

/**
 * Writes the pictures of a page as files of their own, where that is asked for: of each its name and pixels. They have the
 * resolution that they have on paper; `scale` is how large the page is there.
 */
async function linkedPictures(
  { sheet, task: { recipe }, dpi, options, addPicture }: WriteTask,
  page: PageOfSheet,
  scale: number,
): Promise<DxfOptions['pictures']> {
  const { dxfPictures, dxfVersion } = options;
  if (dxfPictures !== 'files' || dxfVersion === 'R12') return [];
  const onPaper = page.placed.map(({ a, b, c, d, ...rest }) => {
    return { ...rest, a: a * scale, b: b * scale, c: c * scale, d: d * scale };
  });
  const printed = { ...page, placed: onPaper };
  const files = await pagePictures({ ...sheet, printed }, recipe, recipe.pictureDpi ?? dpi, (file) => file);
  return Promise.all(
    files.map(async (file, i) => {
      if (!file) return undefined;
      const { width, height } = await sharp(file.bytes, { limitInputPixels: false }).metadata();
      const shown = sheet.drawings.find(({ key }) => key === page.pictures[i]!.drawing);
      const format = file.type === 'image/png' ? 'png' : 'jpeg';
      const plain = (shown?.name ?? 'picture').replace(/\.\w{1,5}$/, '');
      const name = legalName(`${plain}-${sha256(file.bytes).slice(0, HASH_DIGITS)}`, FORMATS[format].extension);
      addPicture({ name, format, width, height, content: file.bytes });
      return { name, width, height };
    }),
  );
}

type PageOfSheet = WriteTask['sheet']['page'];
