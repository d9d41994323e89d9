import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { FontSet, readFontFace, SHIPPED_FONTS, type FontFace, type ShippedFont } from '@folvex/core';

const require = createRequire(import.meta.url);

/** The font file behind each typeface; all under open licences (SIL OFL, Bitstream Vera). */
const FILES: Readonly<Record<ShippedFont, string>> = {
  sans: 'source-sans/TTF/SourceSans3-Regular.ttf',
  condensed: '@expo-google-fonts/roboto-condensed/400Regular/RobotoCondensed_400Regular.ttf',
  mono: '@expo-google-fonts/share-tech-mono/400Regular/ShareTechMono_400Regular.ttf',
  serif: '@expo-google-fonts/tinos/400Regular/Tinos_400Regular.ttf',
  technical: '@expo-google-fonts/jura/400Regular/Jura_400Regular.ttf',
  symbols: 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf',
};

/** Path of a typeface's file; it is also what browsers load to paint with. */
export function fontFile(id: ShippedFont): string {
  return require.resolve(FILES[id]);
}

let faces: FontFace[] | undefined;
let loaded: FontSet | undefined;

/** The faces of the shipped typefaces, read once. */
export function shippedFaces(): readonly FontFace[] {
  faces ??= SHIPPED_FONTS.map((id) => readFontFace(id, new Uint8Array(readFileSync(fontFile(id)))));
  return faces;
}

/** The shipped typefaces, read once. */
export function shippedFonts(): FontSet {
  loaded ??= new FontSet(shippedFaces());
  return loaded;
}
