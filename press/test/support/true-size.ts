import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { STANDARD_RECIPE, type FormatOptions, type Sheet, type View } from '@folvex/core';
import { makeSheet, sha256 } from '../../src/index';
import { verifyFormat } from '../../src/formats';
import { ownFolder, SHEET } from './published';

export function group(...pairs: (string | number)[]): string {
  return `${pairs.join('\n')}\n`;
}

/** A wall of 12 345 mm, drawn in metres far from the origin, with a dashed axis, a heavy line and a text. */
export const [X, Y] = [2_600_000, 1_200_000];
export const DRAWING = [
  group(0, 'SECTION', 2, 'HEADER', 9, '$ACADVER', 1, 'AC1027', 9, '$INSUNITS', 70, 6, 0, 'ENDSEC'),
  group(0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LTYPE', 0, 'LTYPE', 2, 'AXIS', 73, 2, 40, 0.75, 49, 0.5, 49, -0.25),
  group(0, 'ENDTAB', 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES'),
  group(0, 'LINE', 8, 'A-WALL', 370, 50, 62, 1, 10, X, 20, Y, 11, X + 12.345, 21, Y),
  group(0, 'LINE', 8, 'A-AXIS', 6, 'AXIS', 370, 18, 10, X, 20, Y + 2, 11, X + 12, 21, Y + 2),
  group(0, 'LWPOLYLINE', 8, 'A-BEAM', 90, 2, 43, 0.3, 10, X, 20, Y + 4, 10, X + 6, 20, Y + 4),
  group(0, 'TEXT', 8, 'A-TEXT', 10, X + 1, 20, Y + 5, 40, 0.25, 1, 'Größe'),
  group(0, 'ENDSEC', 0, 'EOF'),
].join('');

export const VIEW: View = {
  ...{ id: 'v', drawing: 'd', space: 'model', window: [X - 1, Y - 1, X + 14, Y + 7], at: [20, 20] },
  ...{ scale: '1:100', layersOff: [], label: '' },
};

/** Writes sheets of a drawing as DXF, and reads each again, in a folder that goes away with the tests of a file. */
export function dxfWriter() {
  const folder = ownFolder();
  return async (
    options: FormatOptions,
    sheet: Partial<Sheet> = { views: [VIEW] },
    drawing = DRAWING,
  ): Promise<string> => {
    const path = join(folder, 'plan.dxf');
    writeFileSync(path, drawing);
    const made = await makeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: { ...SHEET, paper: { name: 'A3', orientation: 'landscape' }, frame: 'iso5457', ...sheet },
      recipe: { ...STANDARD_RECIPE, colour: 'black' },
      drawings: [{ id: 'd', name: 'plan.dxf', path, hash: sha256(readFileSync(path)) }],
      part: false,
      formats: ['dxf'],
      options,
      folder,
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    const [file] = made.value.extraFormats;
    const proof = await verifyFormat({ format: 'dxf', path: file!.temporary, width: 420, height: 297, options });
    expect(proof.differences).toEqual([]);
    return file!.temporary;
  };
}
