import { deflateSync } from 'node:zlib';
import type { Deflate, FontSet, PdfTools, Subset } from '@folvex/core';
import { createSubset } from '../typefaces/harfbuzz';
import { shippedFonts } from '../typefaces/shipped';

/**
 * Level 4 deflates line work more than twice as fast as level 6 and comes out about 3 % larger. Streams up to a size take
 * next to no time at any level.
 */
const [QUICK, THOROUGH] = [4, 9];
const SMALL_BYTES = 128 * 1024;

export const deflate: Deflate = (bytes) =>
  deflateSync(bytes, { level: bytes.length <= SMALL_BYTES ? THOROUGH : QUICK });

let subset: Promise<Subset> | undefined;

/** What core's PDF writer needs from Node: fonts, compression, subsetting. */
export async function pdfTools(fonts: FontSet = shippedFonts()): Promise<PdfTools> {
  subset ??= createSubset();
  return { fonts, deflate, subset: await subset };
}
