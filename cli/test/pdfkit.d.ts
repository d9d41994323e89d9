/** What the tests use of pdfkit, which comes without types. */
declare module 'pdfkit' {
  export default class PDFDocument {
    constructor(options: { size: [number, number] });
    on(event: 'data' | 'end', listener: (chunk: Buffer) => void): void;
    text(words: string): void;
    ref(entries: Record<string, unknown>): { end(): void };
    annotate(x: number, y: number, width: number, height: number, entries: Record<string, unknown>): void;
    link(x: number, y: number, width: number, height: number, url: string): void;
    end(): void;
  }
}
