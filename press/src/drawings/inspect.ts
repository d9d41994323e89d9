import {
  inkPage,
  judgeUnit,
  layoutFields,
  MINIATURE,
  MM_PER_UNIT,
  packPage,
  PageBuilder,
  placeView,
  shippedSubstitute,
  titleBlocksIn,
  windowToPaper,
  extentsOf,
  box as boxes,
  type BlockFacts,
  type Box,
  type Drawing,
  type FontId,
  type LayoutFields,
  type LengthUnit,
  type Outcome,
  type Problem,
  type UnitJudgement,
  stopWarnings,
  viewportScales,
} from '@folvex/core';
import { loadDrawing, type DrawingFile } from './load-drawing';
import { shippedFonts } from '../typefaces/shipped';
import { strayWarnings } from './stray-warnings';

/** What a card shows of a drawing. */
export interface DrawingFacts {
  format: string;
  /** As the file states it. */
  unit: LengthUnit | null;
  unitJudgement: UnitJudgement;
  entities: number;
  blocks: number;
  layers: { name: string; colour: number; visible: boolean }[];
  /** `viewports`: the scale of each, paper mm to a unit of the drawing; `fields`: what their title blocks say. */
  layouts: {
    name: string;
    paper: { width: number; height: number } | null;
    viewports: number[];
    fields: LayoutFields;
  }[];
  /** Of all that is visible in the model, in drawing units; null when nothing is. */
  extents: [xmin: number, ymin: number, xmax: number, ymax: number] | null;
  warnings: Problem[];
  /** Typefaces its texts ask for, and the shipped ones that stand in for them. */
  fonts: { asked: string; shown: FontId }[];
  /** Other files that it refers to. */
  references: string[];
  /** Blocks with blanks that can become title blocks. */
  titleBlocks: BlockFacts[];
}

export interface InspectedDrawing {
  facts: DrawingFacts;
  /** Packed page that shows the model, for a miniature; null when nothing is visible. */
  miniature: Uint8Array<ArrayBuffer> | null;
}

/** Reads a drawing and says what is in it. */
export async function inspectDrawing(
  file: Pick<DrawingFile, 'name' | 'path' | 'hash'>,
): Promise<Outcome<InspectedDrawing>> {
  const read = await loadDrawing(file);
  if (!read.ok) return read;
  const { drawing, warnings } = read;
  const model = drawing.spaces[0]!;
  const { box: extents, strays, stops } = extentsOf(drawing, model.entities, shippedFonts());
  return {
    ok: true,
    value: {
      facts: {
        format: drawing.format,
        unit: drawing.unit ?? null,
        unitJudgement: judgeUnit(drawing.unit, drawing.metric, extents && longerSide(extents)),
        entities: drawing.spaces.reduce((sum, space) => sum + space.entities.length, 0),
        blocks: drawing.blocks.size,
        layers: drawing.layers.map((layer) => ({
          name: layer.name,
          colour: layer.colour,
          visible: !layer.off && !layer.frozen && layer.plots,
        })),
        layouts: drawing.spaces
          .filter((space) => space.kind === 'layout')
          .map((space) => ({
            ...{ name: space.name, paper: space.plot?.paper ?? null },
            viewports: viewportScales(space),
            fields: layoutFields(space),
          })),
        extents: extents ? [extents.xmin, extents.ymin, extents.xmax, extents.ymax] : null,
        warnings: [...warnings, ...strayWarnings(strays, file.name), ...stopWarnings(stops, { file: file.name })],
        fonts: fontsOf(drawing),
        references: drawing.references,
        titleBlocks: titleBlocksIn(drawing, shippedFonts()),
      },
      miniature: extents ? miniature(drawing, extents) : null,
    },
  };
}

function longerSide(box: Box): number {
  return Math.max(boxes.width(box), boxes.height(box));
}

/** The fonts of text styles, and those that texts change to. */
function fontsOf(drawing: Drawing): DrawingFacts['fonts'] {
  const asked = new Set(drawing.textStyles.map(({ font }) => font).filter(Boolean));
  for (const { entities } of [...drawing.spaces, ...drawing.blocks.values()]) {
    for (const entity of entities) {
      if (entity.kind !== 'text') continue;
      for (const { spans } of entity.rich ?? []) for (const { font } of spans) if (font) asked.add(font);
    }
  }
  return [...asked].map((font) => ({ asked: font, shown: shippedSubstitute(font).font }));
}

function miniature(drawing: Drawing, extents: Box): Uint8Array<ArrayBuffer> {
  const longest = longerSide(extents) || 1;
  const scale = (MINIATURE.longestMm - 2 * MINIATURE.marginMm) / longest;
  const size = (length: number): number => length * scale + 2 * MINIATURE.marginMm;
  const builder = new PageBuilder(size(boxes.width(extents)), size(boxes.height(extents)));
  const map = windowToPaper(extents, MM_PER_UNIT.mm, scale, MINIATURE.marginMm, MINIATURE.marginMm);
  const clip = { xmin: 0, ymin: 0, xmax: size(boxes.width(extents)), ymax: size(boxes.height(extents)) };
  placeView(builder, shippedFonts(), drawing, drawing.spaces[0]!.entities, map, clip, new Set());
  return packPage(inkPage(builder.build(), 'full'));
}
