import type { OptionalContentConfig } from 'pdfjs-dist/types/src/display/optional_content_config';
import type { PDFDocumentLoadingTask, PDFDocumentProxy, PDFPageProxy, RenderTask } from 'pdfjs-dist';
import { POINTS_PER_MM, type PaperSize } from '@folvex/core';
import { remoteEnd, type LinkEnd, type PageLink } from './page-link';

/** A text found on a page: its box turned about its lower left corner, as shares of the page's width and height. */
export interface Hit {
  page: number;
  text: string;
  /** CSS lengths in per cent of the page, and degrees clockwise. */
  left: number;
  top: number;
  width: number;
  height: number;
  turn: number;
}

export interface LayerGroup {
  name: string;
  layers: { id: string; name: string; visible: boolean }[];
}

/** A layer, or a heading with layers and headings under it. */
type Listed = string | { name: string | null; order: Listed[] };

/** What is used of an annotation as pdf.js gives it. */
interface LinkAnnotation {
  subtype: string;
  rect: number[];
  url?: string;
  /** Of links to other files: no address that a browser could follow. */
  unsafeUrl?: string;
  dest?: string | unknown[] | null;
}

/** Canvases beyond this many pixels fail in some browsers. */
const MAX_PIXELS = 48e6;

/** A PDF opened by an independent reader (pdf.js), page by page. */
export class PdfFile {
  private rendering: RenderTask | undefined;

  private constructor(
    private readonly task: PDFDocumentLoadingTask,
    private readonly document: PDFDocumentProxy,
    private readonly layers: OptionalContentConfig,
    readonly labels: readonly string[],
  ) {}

  /** Rejects with an error called `PasswordException` where the password is missing or wrong. */
  static async open(url: string, password = ''): Promise<PdfFile> {
    const pdfjs = await import('pdfjs-dist');
    pdfjs.GlobalWorkerOptions.workerSrc = '/pdfjs/pdf.worker.min.mjs';
    const task = pdfjs.getDocument({
      url,
      password,
      standardFontDataUrl: '/pdfjs/standard_fonts/',
      wasmUrl: '/pdfjs/wasm/',
    });
    const document = await task.promise;
    const [layers, labels] = await Promise.all([document.getOptionalContentConfig(), document.getPageLabels()]);
    return new PdfFile(task, document, layers, labels ?? []);
  }

  get pageCount(): number {
    return this.document.numPages;
  }

  /** The paper of a page (counted from 1), mm. */
  async paper(number: number): Promise<PaperSize> {
    const page = await this.document.getPage(number);
    const { width, height } = page.getViewport({ scale: 1 });
    return { width: width / POINTS_PER_MM, height: height / POINTS_PER_MM };
  }

  /** Paints a page to be shown `widthPx` CSS pixels wide. False when a later painting overtook it. */
  async paint(number: number, canvas: HTMLCanvasElement, widthPx: number): Promise<boolean> {
    const page = await this.document.getPage(number);
    this.rendering?.cancel();
    // Painted apart and shown whole: the page now on the screen stays until the next one is ready.
    const { apart, rendering } = this.begin(page, widthPx * devicePixelRatio);
    this.rendering = rendering;
    try {
      await rendering.promise;
    } catch (error) {
      if ((error as Error).name === 'RenderingCancelledException') return false;
      throw error;
    }
    canvas.width = apart.width;
    canvas.height = apart.height;
    canvas.getContext('2d')!.drawImage(apart, 0, 0);
    return true;
  }

  /** A page by itself, so many pixels wide. */
  async picture(number: number, widthPx: number): Promise<HTMLCanvasElement> {
    const { apart, rendering } = this.begin(await this.document.getPage(number), widthPx);
    await rendering.promise;
    return apart;
  }

  private begin(page: PDFPageProxy, pixels: number): { apart: HTMLCanvasElement; rendering: RenderTask } {
    const viewport = page.getViewport({ scale: this.scaleFor(page, pixels) });
    const apart = document.createElement('canvas');
    apart.width = Math.round(viewport.width);
    apart.height = Math.round(viewport.height);
    const optionalContentConfigPromise = Promise.resolve(this.layers);
    return { apart, rendering: page.render({ canvas: apart, viewport, optionalContentConfigPromise }) };
  }

  /** Every text that contains what is searched, in page order; letter case does not matter. */
  async find(wanted: string): Promise<Hit[]> {
    const needle = wanted.trim().toLowerCase();
    const hits: Hit[] = [];
    if (needle === '') return hits;
    for (let number = 1; number <= this.pageCount; number++) {
      const page = await this.document.getPage(number);
      const { width, height } = page.getViewport({ scale: 1 });
      for (const item of (await page.getTextContent()).items) {
        if (!('str' in item) || !item.str.toLowerCase().includes(needle)) continue;
        const [a, b, , , x, y] = item.transform as [number, number, number, number, number, number];
        const size = Math.hypot(a, b);
        hits.push({
          page: number,
          text: item.str,
          left: (100 * x) / width,
          top: (100 * (height - y - size)) / height,
          width: (100 * item.width) / width,
          height: (100 * size * 1.15) / height,
          turn: (-Math.atan2(b, a) * 180) / Math.PI,
        });
      }
    }
    return hits;
  }

  /** The links of a page (counted from 1) that lead somewhere. */
  async links(number: number): Promise<PageLink[]> {
    const page = await this.document.getPage(number);
    const viewport = page.getViewport({ scale: 1 });
    const found: PageLink[] = [];
    for (const annotation of (await page.getAnnotations()) as LinkAnnotation[]) {
      if (annotation.subtype !== 'Link') continue;
      const to = await this.endOf(annotation);
      if (!to) continue;
      const [x0, y0, x1, y1] = viewport.convertToViewportRectangle(annotation.rect) as [number, number, number, number];
      found.push({
        to,
        left: (100 * Math.min(x0, x1)) / viewport.width,
        top: (100 * Math.min(y0, y1)) / viewport.height,
        width: (100 * Math.abs(x1 - x0)) / viewport.width,
        height: (100 * Math.abs(y1 - y0)) / viewport.height,
      });
    }
    return found;
  }

  private async endOf({ url, unsafeUrl, dest }: LinkAnnotation): Promise<LinkEnd | undefined> {
    if (url) return { kind: 'address', url };
    if (unsafeUrl) return remoteEnd(unsafeUrl);
    const explicit = typeof dest === 'string' ? await this.document.getDestination(dest) : dest;
    const target = explicit?.[0] as number | Parameters<PDFDocumentProxy['getPageIndex']>[0] | undefined;
    if (target === undefined || target === null) return undefined;
    return { kind: 'page', page: (typeof target === 'number' ? target : await this.document.getPageIndex(target)) + 1 };
  }

  /** The layers as the file lists them, drawing by drawing, and view by view where it does so. */
  layerGroups(): LayerGroup[] {
    const order = (this.layers.getOrder() ?? []) as Listed[];
    return order.flatMap((entry) => (typeof entry === 'string' ? [] : this.groupsIn(entry, '')));
  }

  private groupsIn({ name, order }: Exclude<Listed, string>, above: string): LayerGroup[] {
    const title = [above, name ?? ''].filter(Boolean).join(' · ');
    const layers = order.flatMap((entry) => (typeof entry === 'string' ? [{ id: entry, ...this.layerOf(entry) }] : []));
    const inner = order.flatMap((entry) => (typeof entry === 'string' ? [] : this.groupsIn(entry, title)));
    return [...(layers.length > 0 ? [{ name: title, layers }] : []), ...inner];
  }

  setVisible(id: string, visible: boolean): void {
    this.layers.setVisibility(id, visible);
  }

  close(): void {
    void this.task.destroy();
  }

  private layerOf(id: string): { name: string; visible: boolean } {
    const group = this.layers.getGroup(id) as { name: string | null; visible: boolean } | null;
    return { name: group?.name ?? id, visible: group?.visible ?? true };
  }

  private scaleFor(page: PDFPageProxy, widthPx: number): number {
    const { width, height } = page.getViewport({ scale: 1 });
    const scale = widthPx / width;
    return Math.min(scale, Math.sqrt(MAX_PIXELS / (width * height)));
  }
}
