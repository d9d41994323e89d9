import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { FontSet, readFontFace, type FontId } from '../../src/index';

const require = createRequire(import.meta.url);

function face(id: FontId, file: string) {
  return readFontFace(id, new Uint8Array(readFileSync(require.resolve(file))));
}

/** The shipped typefaces. */
export const FONTS = new FontSet([
  face('sans', 'source-sans/TTF/SourceSans3-Regular.ttf'),
  face('condensed', '@expo-google-fonts/roboto-condensed/400Regular/RobotoCondensed_400Regular.ttf'),
  face('mono', '@expo-google-fonts/share-tech-mono/400Regular/ShareTechMono_400Regular.ttf'),
  face('serif', '@expo-google-fonts/tinos/400Regular/Tinos_400Regular.ttf'),
  face('technical', '@expo-google-fonts/jura/400Regular/Jura_400Regular.ttf'),
  face('symbols', 'dejavu-fonts-ttf/ttf/DejaVuSans.ttf'),
]);
