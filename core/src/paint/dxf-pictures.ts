import { apply, inverse, multiply, type Affine } from '../geometry/affine';
import type { Groups, PictureFile } from './dxf-file';

/** Flags of an IMAGE: it shows, also where it is turned; it is clipped by its outline. */
const [SHOWN, CLIPPED] = [3, 4];
/**
 * The groups of a picture (published DXF reference, IMAGE): a pixel's sides, and in pixels the outline that it shows in, which
 * is `edge` on the page or the whole of it. `placed` takes its unit square to the page.
 */
export function pictureGroups(
  { width, height }: PictureFile,
  placed: Affine,
  toFile: Affine,
  edge: readonly number[] | undefined,
  opacity: number,
): (definition: string, reactor: string) => Groups {
  const { a, b, c, d, e, f } = multiply(toFile, placed);
  const inverted = inverse(placed);
  const corners = (edge ?? []).flatMap((x, i) => {
    if (i % 2) return [];
    const [across, up] = apply(inverted, x, edge![i + 1]!);
    return [14, across * width - 0.5, 24, (1 - up) * height - 0.5];
  });
  const whole = [14, -0.5, 24, -0.5, 14, width - 0.5, 24, height - 0.5];
  const outline = edge ? [71, 2, 91, corners.length / 4, ...corners] : [71, 1, 91, 2, ...whole];
  // More digits than lengths have: they are multiplied by thousands of pixels.
  const exact = (value: number): string => value.toFixed(12);
  return (definition, reactor) => [
    ...[100, 'AcDbRasterImage', 90, 0, 10, e, 20, f, 30, 0],
    ...[11, exact(a / width), 21, exact(b / width), 31, 0, 12, exact(c / height), 22, exact(d / height), 32, 0],
    ...[13, width, 23, height, 340, definition, 70, SHOWN | (edge ? CLIPPED : 0), 280, edge ? 1 : 0],
    ...[281, 50, 282, 50, 283, 100 - opacity, 360, reactor, ...outline],
  ];
}
