import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import DxfParser from 'dxf-parser';
import { readDxf, writeContent } from '@folvex/core';
import { pdfTools } from '@folvex/press';
import { ENTITIES, sampleDxf } from './sample-dxf';
import { pageOf, sample, SEGMENTS, TEXTS } from './sample-page';
import { convertSvg, writeOwn, writeSvg, writeWithPdfkit } from './writers';

const ROUNDS = 7;
const MANY_PAGES = 300;

/** The middle of several timings, ms; the first, which warms up, is left out. */
async function timed(run: () => unknown, rounds = ROUNDS): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i <= rounds; i++) {
    const start = performance.now();
    await run();
    times.push(performance.now() - start);
  }
  return times.slice(1).sort((a, b) => a - b)[Math.floor(rounds / 2)]!;
}

function line(what: string, value: string, remark = ''): void {
  console.log(`${what.padEnd(44)}${value.padStart(12)}  ${remark}`);
}

async function writing(folder: string): Promise<void> {
  const tools = await pdfTools();
  const drawn = sample(1);
  const page = pageOf(drawn, tools.fonts);
  const content = writeContent(page, tools.fonts, true).bytes.slice();
  const [svg, pdf] = [join(folder, 'page.svg'), join(folder, 'page.pdf')];
  writeSvg(drawn, svg);
  const own = await timed(() => writeOwn(page, tools));
  const bare = await timed(() => tools.deflate(content));
  const kit = await timed(() => writeWithPdfkit(drawn), 3);
  const rsvg = await timed(() => convertSvg(svg, pdf), 3);
  console.log(`\nWriting a page of ${SEGMENTS} segments and ${TEXTS} texts (middle of ${ROUNDS})`);
  line(
    'Folvex, whole file',
    `${own.toFixed(1)} ms`,
    `${(1000 / own).toFixed(1)} pages/s, ${writeOwn(page, tools)} bytes`,
  );
  line('deflating the same content, nothing else', `${bare.toFixed(1)} ms`, `${content.length} bytes in`);
  line('pdfkit', `${kit.toFixed(1)} ms`, `${await writeWithPdfkit(drawn)} bytes`);
  line('rsvg-convert, its start included', `${rsvg.toFixed(1)} ms`, `${convertSvg(svg, pdf)} bytes`);
  line('Folvex over bare deflate', `× ${(own / bare).toFixed(2)}`, 'wanted: at most 2');
  line('pdfkit over Folvex', `× ${(kit / own).toFixed(1)}`, 'wanted: at least 5');
  line('rsvg-convert over Folvex', `× ${(rsvg / own).toFixed(1)}`, 'wanted: at least 5');
}

async function reading(): Promise<void> {
  const text = sampleDxf();
  const bytes = new TextEncoder().encode(text);
  const own = await timed(() => readDxf(bytes, 'bench.dxf'), 5);
  const parser = await timed(() => new DxfParser().parseSync(text), 5);
  const read = readDxf(bytes, 'bench.dxf');
  const count = read.ok ? read.drawing.spaces[0]!.entities.length : 0;
  if (count !== ENTITIES) throw new Error(`read ${count} of ${ENTITIES} entities`);
  console.log(`\nReading a DXF of ${ENTITIES} entities, ${(bytes.length / 1e6).toFixed(1)} MB`);
  line('Folvex, from bytes', `${own.toFixed(0)} ms`);
  line('dxf-parser, from text already decoded', `${parser.toFixed(0)} ms`);
  line('dxf-parser over Folvex', `× ${(parser / own).toFixed(1)}`, 'wanted: at least 5');
}

/** In a process of its own, so that only this work counts. */
function memory(): void {
  const script = process.argv[1]!;
  const peak = (pages: number): number =>
    Number(execFileSync(process.execPath, [script, 'pages', String(pages)], { encoding: 'utf8' }).trim());
  const [few, many] = [peak(10), peak(MANY_PAGES)];
  console.log('\nMemory for one combined file of such pages, each another one');
  line('10 pages, peak', `${few} MB`);
  line(`${MANY_PAGES} pages, peak`, `${many} MB`, 'wanted: under 500');
  line('300 pages over 10 pages', `× ${(many / few).toFixed(2)}`);
}

const folder = mkdtempSync(join(tmpdir(), 'folvex-bench-'));
try {
  if (process.argv[2] === 'pages') {
    const { writeMany } = await import('./many-pages');
    await writeMany(Number(process.argv[3]), join(folder, 'many.pdf'));
    console.log(Math.round(process.resourceUsage().maxRSS / 1024));
  } else {
    await writing(folder);
    await reading();
    memory();
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
