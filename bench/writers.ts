import { execFileSync } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync, writeFileSync } from 'node:fs';
import PDFKit from 'pdfkit';
import { PdfDocument, POINTS_PER_MM, writePart, type Page, type PdfTools } from '@folvex/core';
import { fontFile } from '@folvex/press';
import type { Sample } from './sample-page';

/** Writes a page with the project's own writer; returns the file's length in bytes. */
export function writeOwn(page: Page, tools: PdfTools): number {
  let bytes = 0;
  const sink = { write: (chunk: Uint8Array) => void (bytes += chunk.length) };
  const facts = { title: 'Bench', author: '', producer: 'Folvex', date: '', id: '0'.repeat(32) };
  const document = new PdfDocument(sink, tools, facts);
  document.addPage(writePart(page, tools.fonts, true, tools.deflate), { number: '1', title: 'Bench' });
  document.finish();
  return bytes;
}

/** The same page through pdfkit. */
export async function writeWithPdfkit(sample: Sample): Promise<number> {
  const size: [number, number] = [sample.width * POINTS_PER_MM, sample.height * POINTS_PER_MM];
  const document = new PDFKit({ size, margin: 0, compress: true });
  let bytes = 0;
  document.on('data', (chunk: Buffer) => (bytes += chunk.length));
  const ended = once(document, 'end');
  document.registerFont('sans', fontFile('sans')).font('sans');
  const flip = (y: number): number => (sample.height - y) * POINTS_PER_MM;
  for (const { weight, colour, points } of sample.lines) {
    document.lineWidth(weight * POINTS_PER_MM).strokeColor(css(colour));
    document.moveTo(points[0]! * POINTS_PER_MM, flip(points[1]!));
    for (let i = 2; i < points.length; i += 2) document.lineTo(points[i]! * POINTS_PER_MM, flip(points[i + 1]!));
    document.stroke();
  }
  for (const { text, size: height, x, y } of sample.texts) {
    document.fontSize(height * POINTS_PER_MM).fillColor('#000000');
    document.text(text, x * POINTS_PER_MM, flip(y), { lineBreak: false });
  }
  document.end();
  await ended;
  return bytes;
}

/** The same page as an SVG file, for rsvg-convert. */
export function writeSvg(sample: Sample, path: string): void {
  const flip = (y: number): string => (sample.height - y).toFixed(2);
  const lines = sample.lines.map(({ weight, colour, points }) => {
    const xy: string[] = [];
    for (let i = 0; i < points.length; i += 2) xy.push(`${points[i]!.toFixed(2)},${flip(points[i + 1]!)}`);
    return `<polyline points="${xy.join(' ')}" stroke="${css(colour)}" stroke-width="${weight}"/>`;
  });
  const texts = sample.texts.map(
    ({ text, size, x, y }) =>
      `<text x="${x.toFixed(2)}" y="${flip(y)}" font-size="${size}" fill="#000" stroke="none">${text}</text>`,
  );
  const { width, height } = sample;
  writeFileSync(
    path,
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}">` +
      `<g fill="none" font-family="sans-serif">${lines.join('\n')}\n${texts.join('\n')}</g></svg>`,
  );
}

export function convertSvg(svg: string, pdf: string): number {
  execFileSync('rsvg-convert', ['-f', 'pdf', '-o', pdf, svg]);
  return readFileSync(pdf).length;
}

function css(colour: number): string {
  return `#${colour.toString(16).padStart(6, '0')}`;
}
