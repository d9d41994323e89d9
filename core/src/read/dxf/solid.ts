import type { PlainEntity, Style } from '../../drawing/model';
import { isMirrored } from './projection';
import type { Record } from './record';

/** SOLID and TRACE: four corners, of which the third and fourth are crossed over in the file. */
export function readSolid(record: Record, style: Style, handle: string): PlainEntity {
  const mirror = isMirrored(record) ? -1 : 1;
  const corner = (n: number): [number, number] => [mirror * record.number(10 + n), record.number(20 + n)];
  const fourth = record.has(13) ? corner(3) : corner(2);
  const points = [corner(0), corner(1), fourth, corner(2)];
  return { kind: 'fill', style, handle, loops: [Float64Array.from(points.flatMap(([x, y]) => [x, y, 0]))] };
}
