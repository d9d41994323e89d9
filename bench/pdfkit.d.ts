/** As much of pdfkit's interface as the bench uses; its package ships no types. */
declare module 'pdfkit' {
  import type { Readable } from 'node:stream';

  export default class PDFDocument extends Readable {
    constructor(options: { size: [number, number]; margin: number; compress: boolean });
    registerFont(name: string, file: string): this;
    font(name: string): this;
    fontSize(points: number): this;
    lineWidth(points: number): this;
    strokeColor(colour: string): this;
    fillColor(colour: string): this;
    moveTo(x: number, y: number): this;
    lineTo(x: number, y: number): this;
    stroke(): this;
    text(text: string, x: number, y: number, options: { lineBreak: boolean }): this;
    end(): void;
  }
}
