import type { Affine } from '../../geometry/affine';
import type { Entity, PictureSource } from '../../drawing/model';
import type { PaperSize } from '../../paper/sizes';
import type { Problem } from '../../problem';
import { pagedDrawing, plainStyle, type PaperPage } from '../paged';
import type { ReadResult } from '../result';

/** A raster picture, or a page of one, as its host found it. */
export interface RasterPage {
  source: PictureSource;
  /** Pixels, before turning. */
  width: number;
  height: number;
  dpi: number | undefined;
  /** EXIF's number for how it is turned, 1 to 8. */
  orientation: number;
}

const MM_PER_INCH = 25.4;
/** Taken where a picture does not say its resolution: a pixel is then a point. */
const UNSTATED_DPI = 72;

/** A drawing whose pages are pictures, each as large as its resolution makes it. */
export function pictureDrawing(name: string, format: string, rasters: readonly RasterPage[]): ReadResult {
  const warnings: Problem[] = [];
  const pages = rasters.map((raster, i): PaperPage => {
    const { width, height, orientation } = raster;
    const mm = MM_PER_INCH / (raster.dpi ?? UNSTATED_DPI);
    const turned = orientation >= 5;
    const paper: PaperSize = turned
      ? { width: height * mm, height: width * mm }
      : { width: width * mm, height: height * mm };
    const entity: Entity = {
      kind: 'picture',
      style: plainStyle(0),
      handle: '',
      picture: i,
      map: turnedMap(orientation, paper),
    };
    return { name: `Page ${i + 1}`, paper, entities: [entity] };
  });
  if (rasters.some(({ dpi }) => dpi === undefined)) {
    const sentence = `${name} does not say how large its pixels are; ${UNSTATED_DPI} to the inch are taken. Give its view the scale that makes a known length right.`;
    warnings.push({ code: 'picture.resolution', sentence, place: { file: name } });
  }
  return {
    ok: true,
    drawing: pagedDrawing({ name, format, pictures: rasters.map(({ source }) => source) }, pages),
    warnings,
  };
}

/** The map of the unit square to the paper that turns and mirrors a picture upright (EXIF 2.3, tag 0x112). */
function turnedMap(orientation: number, { width: w, height: h }: PaperSize): Affine {
  switch (orientation) {
    case 2:
      return { a: -w, b: 0, c: 0, d: h, e: w, f: 0 };
    case 3:
      return { a: -w, b: 0, c: 0, d: -h, e: w, f: h };
    case 4:
      return { a: w, b: 0, c: 0, d: -h, e: 0, f: h };
    case 5:
      return { a: 0, b: -h, c: -w, d: 0, e: w, f: h };
    case 6:
      return { a: 0, b: -h, c: w, d: 0, e: 0, f: h };
    case 7:
      return { a: 0, b: h, c: w, d: 0, e: 0, f: 0 };
    case 8:
      return { a: 0, b: h, c: -w, d: 0, e: w, f: 0 };
    default:
      return { a: w, b: 0, c: 0, d: h, e: 0, f: 0 };
  }
}
