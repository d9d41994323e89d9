import type { PDFDocumentProxy, PDFWorker } from 'pdfjs-dist';

/** pdf.js asks for canvases as a document would make them; a worker has none but these. */
class OffscreenCanvases {
  create(width: number, height: number) {
    const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas, context: canvas.getContext('2d') };
  }

  reset(held: { canvas: OffscreenCanvas }, width: number, height: number): void {
    held.canvas.width = Math.max(1, width);
    held.canvas.height = Math.max(1, height);
  }

  destroy(held: { canvas: OffscreenCanvas | null; context: unknown }): void {
    held.canvas = null;
    held.context = null;
  }
}

/** Filters live in a document; without one, colours are shown as they are. */
class NoFilters {
  addFilter = (): string => 'none';
  addHCMFilter = (): string => 'none';
  addAlphaFilter = (): string => 'none';
  addLuminosityFilter = (): string => 'none';
  addKnockoutFilter = (): string => 'none';
  addHighlightHCMFilter = (): string => 'none';
  destroy = (): void => undefined;
}

const MAX_CACHED = 4;
let reader: PDFWorker | undefined;
const opened = new Map<string, Promise<PDFDocumentProxy>>();

/** Paints a page of a PDF, its longer side `side` pixels, as its turned form lies. */
export async function paintPdfPage(url: string, number: number, side: number): Promise<ImageBitmap> {
  const document = await open(url);
  const page = await document.getPage(number);
  const natural = page.getViewport({ scale: 1 });
  const viewport = page.getViewport({ scale: side / Math.max(natural.width, natural.height) });
  const canvas = new OffscreenCanvas(Math.round(viewport.width) || 1, Math.round(viewport.height) || 1);
  const context = canvas.getContext('2d')! as never;
  // Form fields and merged comments are already in the page's content.
  const annotationMode = (await import('pdfjs-dist')).AnnotationMode.DISABLE;
  const background = 'rgba(255,255,255,0)';
  await page.render({ canvas: null, canvasContext: context, viewport, background, annotationMode }).promise;
  page.cleanup();
  return canvas.transferToImageBitmap();
}

function open(url: string): Promise<PDFDocumentProxy> {
  const known = opened.get(url);
  if (known) return known;
  const document = load(url);
  document.catch(() => opened.delete(url));
  opened.set(url, document);
  if (opened.size > MAX_CACHED) {
    const [oldest, old] = opened.entries().next().value!;
    opened.delete(oldest);
    void old.then((proxy) => proxy.loadingTask.destroy());
  }
  return document;
}

async function load(url: string): Promise<PDFDocumentProxy> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`PDF ${response.status}`);
  const pdfjs = await import('pdfjs-dist');
  // Its types leave out that a port may be a worker.
  const port = new Worker('/pdfjs/pdf.worker.min.mjs', { type: 'module' }) as unknown as null;
  reader ??= new pdfjs.PDFWorker({ port });
  // What pdf.js would look up in a window is set here instead: a worker has none.
  return pdfjs.getDocument({
    data: new Uint8Array(await response.arrayBuffer()),
    worker: reader,
    // Letters are drawn as outlines: a worker has no document to load typefaces into.
    disableFontFace: true,
    useSystemFonts: false,
    useWorkerFetch: true,
    standardFontDataUrl: `${self.location.origin}/pdfjs/standard_fonts/`,
    wasmUrl: `${self.location.origin}/pdfjs/wasm/`,
    CanvasFactory: OffscreenCanvases,
    FilterFactory: NoFilters,
  }).promise;
}
