import type { ClipShape } from '../page/page';

/** The operators that let a content stream show only what a shape encloses from here on (ISO 32000-2, 8.5.4). */
export function clipOperators(shape: ClipShape): string {
  const [only] = shape;
  if (shape.length === 1 && only!.length === 4) {
    const [xmin, ymin, xmax, ymax] = only as [number, number, number, number];
    return `${xmin} ${ymin} ${xmax - xmin} ${ymax - ymin} re W n\n`;
  }
  const loops = shape.map((loop) => {
    const points: string[] = [];
    for (let i = 0; i + 1 < loop.length; i += 2) points.push(`${loop[i]} ${loop[i + 1]} ${i ? 'l' : 'm'}`);
    return `${points.join(' ')} h`;
  });
  // A shape without loops shows nothing.
  return `${loops.join(' ') || '0 0 m'} W* n\n`;
}
