import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { FontFace, Subset } from '@folvex/core';
import { wasm, type WasmMemory } from './webassembly';

const require = createRequire(import.meta.url);

/** The calls of HarfBuzz's subsetting library that are used, as its WebAssembly build exports them. */
interface HarfBuzz {
  memory: WasmMemory;
  malloc(size: number): number;
  free(at: number): void;
  hb_blob_create(at: number, length: number, mode: number, data: number, destroy: number): number;
  hb_blob_destroy(blob: number): void;
  hb_blob_get_data(blob: number, length: number): number;
  hb_blob_get_length(blob: number): number;
  hb_face_create(blob: number, index: number): number;
  hb_face_destroy(face: number): void;
  hb_face_reference_blob(face: number): number;
  hb_set_add(set: number, value: number): void;
  hb_subset_input_create_or_fail(): number;
  hb_subset_input_destroy(input: number): void;
  hb_subset_input_glyph_set(input: number): number;
  hb_subset_input_set(input: number, which: number): number;
  hb_subset_input_set_flags(input: number, flags: number): void;
  hb_subset_or_fail(face: number, input: number): number;
}

const READONLY_MEMORY = 1;
const NO_HINTING = 0x1;
const RETAIN_GIDS = 0x2;
const NO_LAYOUT_CLOSURE = 0x200;
const SET_OF_DROPPED_TABLES = 3;
/** Tables that a PDF's embedded font has no use for. */
const DROPPED = ['GSUB', 'GPOS', 'GDEF', 'name', 'DSIG', 'kern', 'cmap', 'OS/2', 'post', 'gasp', 'STAT'];

/** Makes the function that cuts fonts down to the glyphs used; glyphs keep their numbers. */
export async function createSubset(): Promise<Subset> {
  const code = readFileSync(require.resolve('harfbuzzjs/dist/harfbuzz-subset.wasm'));
  const { instance } = await wasm.instantiate(code, {});
  const hb = instance.exports as unknown as HarfBuzz;
  return (font, glyphs) => subset(hb, font, glyphs);
}

function subset(hb: HarfBuzz, font: FontFace, glyphs: readonly number[]): Uint8Array {
  const at = hb.malloc(font.bytes.length);
  new Uint8Array(hb.memory.buffer).set(font.bytes, at);
  const blob = hb.hb_blob_create(at, font.bytes.length, READONLY_MEMORY, 0, 0);
  const face = hb.hb_face_create(blob, 0);
  const input = hb.hb_subset_input_create_or_fail();
  try {
    const kept = hb.hb_subset_input_glyph_set(input);
    for (const glyph of glyphs) hb.hb_set_add(kept, glyph);
    const dropped = hb.hb_subset_input_set(input, SET_OF_DROPPED_TABLES);
    for (const tag of DROPPED) hb.hb_set_add(dropped, tagNumber(tag));
    hb.hb_subset_input_set_flags(input, NO_HINTING | RETAIN_GIDS | NO_LAYOUT_CLOSURE);
    const cut = hb.hb_subset_or_fail(face, input);
    if (cut === 0) throw new Error(`the font ${font.postScriptName} could not be subset`);
    const result = hb.hb_face_reference_blob(cut);
    const start = hb.hb_blob_get_data(result, 0);
    const bytes = new Uint8Array(hb.memory.buffer).slice(start, start + hb.hb_blob_get_length(result));
    hb.hb_blob_destroy(result);
    hb.hb_face_destroy(cut);
    return bytes;
  } finally {
    hb.hb_subset_input_destroy(input);
    hb.hb_face_destroy(face);
    hb.hb_blob_destroy(blob);
    hb.free(at);
  }
}

function tagNumber(tag: string): number {
  return [...tag.padEnd(4)].reduce((number, c) => ((number << 8) | c.charCodeAt(0)) >>> 0, 0);
}
