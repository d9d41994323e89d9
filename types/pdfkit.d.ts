/** As much of pdfkit's interface as the bench and the tests use; its package ships no types. Lengths are in points. */
declare module 'pdfkit' {
  import type { Readable } from 'node:stream';

  export default class PDFDocument extends Readable {
    constructor(options: { size: [number, number]; margin?: number; compress?: boolean });
    registerFont(name: string, file: string): this;
    font(name: string): this;
    fontSize(points: number): this;
    lineWidth(points: number): this;
    strokeColor(colour: string): this;
    fillColor(colour: string): this;
    moveTo(x: number, y: number): this;
    lineTo(x: number, y: number): this;
    stroke(): this;
    text(words: string): this;
    text(words: string, x: number, y: number, options: { lineBreak: boolean }): this;
    ref(entries: Record<string, unknown>): { end(): void };
    annotate(x: number, y: number, width: number, height: number, entries: Record<string, unknown>): void;
    link(x: number, y: number, width: number, height: number, url: string): void;
    end(): void;
  }
}
