import { readFileSync } from 'node:fs';
import { dxfOf, readDxf } from '@folvex/core';
import { shippedFonts } from '../../pdf/fonts';
import type { FormatWriter } from '../format';

const MAX_TOLD_WARNINGS = 3;

/** DXF in millimetres of paper; read again by the reader that takes in drawings. */
export const dxf: FormatWriter = {
  write: async ({ sheet }) => Buffer.from(dxfOf(sheet.printed, shippedFonts())),

  verify: async ({ path }, proof) => {
    const read = readDxf(new Uint8Array(readFileSync(path)), path);
    if (!read.ok) return [read.problem.sentence];
    const { drawing, warnings } = read;
    proof.layers = drawing.layers.length;
    for (const entity of drawing.spaces[0]!.entities) {
      if (entity.kind === 'text') proof.characters += [...entity.lines.join('')].filter((c) => c.trim()).length;
    }
    if (drawing.unit !== 'mm') return [`Its unit is ${drawing.unit ?? 'not said'}, not mm.`];
    return warnings.slice(0, MAX_TOLD_WARNINGS).map(({ sentence }) => sentence);
  },
};
