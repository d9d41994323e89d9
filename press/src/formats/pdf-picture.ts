import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { AnnotationMode, getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

const folder = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
/** Sides of a picture at most, pixels: what is placed larger is blown up. */
const MAX_SIDE = 16_000;

/** What pdf.js makes to paint on in Node, by @napi-rs/canvas. */
interface Canvases {
  create(width: number, height: number): { canvas: { toBuffer(type: 'image/png'): Buffer }; context: never };
}

/** A page of a PDF as a PNG with nothing behind it, `width` by `height` pixels, after its rotation. */
export async function pdfPicture(bytes: Uint8Array, page: number, width: number, height: number): Promise<Uint8Array> {
  const task = getDocument({
    data: bytes.slice(),
    verbosity: 0,
    // Letters are drawn as outlines: the machine's typefaces have no say.
    disableFontFace: true,
    useSystemFonts: false,
    standardFontDataUrl: `${join(folder, 'standard_fonts')}/`,
    cMapUrl: `${join(folder, 'cmaps')}/`,
    wasmUrl: `${join(folder, 'wasm')}/`,
  });
  try {
    const document = await task.promise;
    const shown = await document.getPage(page);
    const natural = shown.getViewport({ scale: 1 });
    const most = MAX_SIDE / Math.max(natural.width, natural.height);
    const scale = Math.min(most, Math.max(width / natural.width, height / natural.height));
    const viewport = shown.getViewport({ scale });
    const canvases = document.canvasFactory as unknown as Canvases;
    const { canvas, context } = canvases.create(Math.ceil(viewport.width), Math.ceil(viewport.height));
    const background = 'rgba(255,255,255,0)';
    // Form fields and merged comments are already in the page's content.
    const annotationMode = AnnotationMode.DISABLE;
    await shown.render({ canvas: null, canvasContext: context, viewport, background, annotationMode }).promise;
    return new Uint8Array(canvas.toBuffer('image/png'));
  } finally {
    await task.destroy();
  }
}
