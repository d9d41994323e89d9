import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import {
  DEFAULT_DPI,
  isPicture,
  MOST_PICTURE_PIXELS,
  picturePixels,
  readDxf,
  type BesideFormat,
  type Proof,
} from '@folvex/core';

/** A file beside PDF to be read again, with what it should show. */
export interface BesideProofTask {
  path: string;
  format: BesideFormat;
  /** The paper, mm. */
  width: number;
  height: number;
  /** Dots to the inch of pictures; absent: 300. */
  dpi?: number;
}

/** The resolution at which an SVG is measured. */
const MEASURED_DPI = 72;
/** The reader tells whole pixels. */
const WHOLE_PIXEL_MM = 0.4;

/** Reads a file again: pictures and SVG by libvips and librsvg, DXF by the reader that takes in drawings. */
export async function proofOfBeside(task: BesideProofTask): Promise<Proof> {
  const proof: Proof = { pages: 1, characters: 0, fonts: 0, layers: 0, links: 0, measured: 0, differences: [] };
  try {
    const found = task.format === 'dxf' ? ofDrawing(task, proof) : await ofPicture(task);
    return { ...proof, differences: found };
  } catch (error) {
    return { ...proof, differences: [`It cannot be read to its end (${(error as Error).message}).`] };
  }
}

function ofDrawing({ path }: BesideProofTask, proof: Proof): string[] {
  const read = readDxf(new Uint8Array(readFileSync(path)), path);
  if (!read.ok) return [read.problem.sentence];
  const { drawing, warnings } = read;
  const { entities } = drawing.spaces[0]!;
  proof.layers = drawing.layers.length;
  for (const entity of entities) {
    if (entity.kind === 'text') proof.characters += [...entity.lines.join('')].filter((c) => c.trim()).length;
  }
  if (drawing.unit !== 'mm') return [`Its unit is ${drawing.unit ?? 'not said'}, not mm.`];
  return warnings.slice(0, 3).map(({ sentence }) => sentence);
}

async function ofPicture({ path, format, width, height, dpi = DEFAULT_DPI }: BesideProofTask): Promise<string[]> {
  const own = isPicture(format) ? {} : { density: MEASURED_DPI };
  const facts = await sharp(path, { ...own, limitInputPixels: MOST_PICTURE_PIXELS, unlimited: true }).metadata();
  if (!isPicture(format)) {
    const mm = (pixels: number): number => (pixels / MEASURED_DPI) * 25.4;
    const near = [mm(facts.width) - width, mm(facts.height) - height].every((more) => Math.abs(more) < WHOLE_PIXEL_MM);
    return near
      ? []
      : [`It measures ${mm(facts.width).toFixed(1)} × ${mm(facts.height).toFixed(1)} mm, not ${width} × ${height}.`];
  }
  const wanted = picturePixels({ width, height }, dpi);
  const differs: string[] = [];
  if (facts.width !== wanted.width || facts.height !== wanted.height) {
    differs.push(`It has ${facts.width} × ${facts.height} pixels, not ${wanted.width} × ${wanted.height}.`);
  }
  if (Math.round(facts.density ?? 0) !== dpi) {
    differs.push(`It says ${facts.density ?? 'no'} dots to the inch, not ${dpi}.`);
  }
  return differs;
}
