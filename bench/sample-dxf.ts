import { numbersFrom, type Sample } from './sample-page';

export const ENTITIES = 150_000;

/** Side of the square that the entities lie in, drawing units. */
const SIDE = 50_000;

/** Subclass marker of each type: from R13 on it separates an entity's own groups from those that all have. */
const SUBCLASS: Readonly<Record<string, string>> = {
  LINE: 'AcDbLine',
  LWPOLYLINE: 'AcDbPolyline',
  CIRCLE: 'AcDbCircle',
  ARC: 'AcDbCircle',
  TEXT: 'AcDbText',
};

/**
 * A text DXF, of 150 000 entities unless said otherwise: mostly lines, with polylines, circles, arcs and texts, on twenty layers. Each is at most
 * `reach` large: as large as the drawing for a sample to read, small for one that looks like a building.
 */
export function sampleDxf(reach = SIDE, entities = ENTITIES): string {
  const next = numbersFrom(7);
  const size = (): string => (next() * reach).toFixed(4);
  // Coordinates of one entity lie around a corner of its own.
  let [corner, axis] = [[0, 0], 0];
  const begin = (): void => {
    corner = [next() * (SIDE - reach), next() * (SIDE - reach)];
    axis = 0;
  };
  const number = (): string => (corner[axis++ % 2]! + next() * reach).toFixed(4);
  const parts = ['0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1027\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n'];
  parts.push('0\nSECTION\n2\nENTITIES\n');
  for (let i = 0; i < entities; i++) {
    const head = (type: string): string =>
      `0\n${type}\n5\n${(i + 256).toString(16).toUpperCase()}\n330\n1F\n100\nAcDbEntity\n8\nA-LAYER-${i % 20}\n62\n${1 + (i % 7)}\n100\n${SUBCLASS[type]}\n`;
    begin();
    const kind = next();
    if (kind < 0.6) {
      parts.push(
        `${head('LINE')}10\n${number()}\n20\n${number()}\n30\n0.0\n11\n${number()}\n21\n${number()}\n31\n0.0\n`,
      );
    } else if (kind < 0.8) {
      const vertices = Array.from({ length: 6 }, () => `10\n${number()}\n20\n${number()}\n`).join('');
      parts.push(`${head('LWPOLYLINE')}90\n6\n70\n1\n${vertices}`);
    } else if (kind < 0.88) parts.push(`${head('CIRCLE')}10\n${number()}\n20\n${number()}\n30\n0.0\n40\n${size()}\n`);
    else if (kind < 0.94) {
      parts.push(
        `${head('ARC')}10\n${number()}\n20\n${number()}\n30\n0.0\n40\n${size()}\n50\n${(next() * 360).toFixed(3)}\n51\n${(next() * 360).toFixed(3)}\n`,
      );
    } else {
      parts.push(
        `${head('TEXT')}10\n${number()}\n20\n${number()}\n30\n0.0\n40\n${reach < SIDE ? 50 : 250}.0\n1\nRoom ${i} m2\n50\n0.0\n`,
      );
    }
  }
  parts.push('0\nENDSEC\n0\nEOF\n');
  return parts.join('');
}

/** The sample page as a DXF in millimetres, one to one. */
export function pageDxf({ lines, texts }: Sample): string {
  const parts = ['0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n'];
  for (const { layer, weight, points } of lines) {
    const head = `8\nL${layer}\n370\n${Math.round(weight * 100)}\n`;
    const xy: string[] = [];
    for (let i = 0; i < points.length; i += 2) {
      xy.push(`10\n${points[i]!.toFixed(3)}\n20\n${points[i + 1]!.toFixed(3)}\n`);
    }
    parts.push(`0\nLWPOLYLINE\n${head}90\n${xy.length}\n70\n0\n${xy.join('')}`);
  }
  for (const { layer, text, size, x, y } of texts) {
    parts.push(`0\nTEXT\n8\nL${layer}\n10\n${x.toFixed(3)}\n20\n${y.toFixed(3)}\n40\n${size}\n1\n${text}\n`);
  }
  parts.push('0\nENDSEC\n0\nEOF\n');
  return parts.join('');
}
