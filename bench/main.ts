import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import DxfParser from 'dxf-parser';
import { readDxf, writeContent } from '@folvex/core';
import { pdfTools } from '@folvex/press';
import { LARGE_WORK, workOn, type LargeWork } from './large-file';
import { benchNesting } from './nesting';
import { ENTITIES, pageDxf, sampleDxf } from './sample-dxf';
import { pageOf, sample, SEGMENTS, TEXTS } from './sample-page';
import { compareSvgFiles } from './svg-files';
import { convertSvg, writeOwn, writeSvg, writeWithPdfkit } from './writers';

const ROUNDS = 7;
/** Of what takes a twentieth of a second, more: another program's burst must not fall on all of them. */
const QUICK_ROUNDS = 25;
const MANY_PAGES = 300;
const LARGE_ENTITIES = 1_300_000;
/** Size of the entities of the sample that is shown on screen, as in a plan of a building in mm. */
const BUILDING_PARTS = 600;

/**
 * The quickest of several rounds of each, ms, taken in turns after one to warm up: what else the machine does makes
 * rounds slower, never quicker.
 */
async function timed<Name extends string>(
  runs: Readonly<Record<Name, () => unknown>>,
  rounds = ROUNDS,
): Promise<Record<Name, number>> {
  const names = Object.keys(runs) as Name[];
  const best = Object.fromEntries(names.map((name) => [name, Infinity])) as Record<Name, number>;
  for (let i = 0; i <= rounds; i++) {
    for (const name of names) {
      const start = performance.now();
      await runs[name]();
      if (i > 0) best[name] = Math.min(best[name], performance.now() - start);
    }
  }
  return best;
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
  const { own, bare } = await timed(
    { own: () => writeOwn(page, tools), bare: () => tools.deflate(content) },
    QUICK_ROUNDS,
  );
  const { kit, rsvg } = await timed({ kit: () => writeWithPdfkit(drawn), rsvg: () => convertSvg(svg, pdf) });
  console.log(
    `\nWriting a page of ${SEGMENTS} segments and ${TEXTS} texts ` +
      `(quickest of ${QUICK_ROUNDS}; pdfkit, rsvg-convert: of ${ROUNDS})`,
  );
  line(
    'Folvex, whole file',
    `${own.toFixed(1)} ms`,
    `${(1000 / own).toFixed(1)} pages/s, ${writeOwn(page, tools)} bytes`,
  );
  line('deflating the same content, nothing else', `${bare.toFixed(1)} ms`, `${content.length} bytes in`);
  line('pdfkit', `${kit.toFixed(1)} ms`, `${await writeWithPdfkit(drawn)} bytes`);
  line('rsvg-convert, its start included', `${rsvg.toFixed(1)} ms`, `${convertSvg(svg, pdf)} bytes`);
  line('Folvex over bare deflate', `× ${(own / bare).toFixed(2)}`, 'wanted: at most 1.8');
  line('pdfkit over Folvex', `× ${(kit / own).toFixed(1)}`, 'wanted: at least 10');
  line('rsvg-convert over Folvex', `× ${(rsvg / own).toFixed(1)}`, 'wanted: at least 5');
}

async function reading(): Promise<void> {
  const text = sampleDxf();
  const bytes = new TextEncoder().encode(text);
  const { own, parser } = await timed(
    {
      own: () => readDxf(bytes, 'bench.dxf'),
      parser: () => new DxfParser().parseSync(text),
    },
    15,
  );
  const read = readDxf(bytes, 'bench.dxf');
  const count = read.ok ? read.drawing.spaces[0]!.entities.length : 0;
  if (count !== ENTITIES) throw new Error(`read ${count} of ${ENTITIES} entities`);
  console.log(`\nReading a DXF of ${ENTITIES} entities, ${(bytes.length / 1e6).toFixed(1)} MB`);
  line('Folvex, from bytes', `${own.toFixed(0)} ms`);
  line('dxf-parser, from text already decoded', `${parser.toFixed(0)} ms`);
  line('dxf-parser over Folvex', `× ${(parser / own).toFixed(1)}`, 'wanted: at least 5');
  const path = join(folder, 'bench.dxf');
  writeFileSync(path, bytes);
  const [alone, peak] = inProcess(['--single-threaded'], 'read', path) as [number, number];
  line('in a process of its own, one thread', `${alone} ms`, 'wanted: under 2000');
  line('its peak, the file and Node included', `${peak} MB`, 'wanted: at most 400');
}

/** Numbers that this script prints for an argument, in a process of its own, so that only this work counts. */
function inProcess(flags: string[], ...args: string[]): number[] {
  return execFileSync(process.execPath, [...flags, process.argv[1]!, ...args], { encoding: 'utf8' })
    .trim()
    .split(' ')
    .map(Number);
}

/** Reads the sample once from a file, as the server does; prints ms and peak MB. */
function readOnce(path: string): void {
  const bytes = new Uint8Array(readFileSync(path));
  const start = performance.now();
  readDxf(bytes, 'bench.dxf');
  console.log(Math.round(performance.now() - start), peakMb());
}

function peakMb(): number {
  return Math.round(process.resourceUsage().maxRSS / 1024);
}

function memory(): void {
  const [few, many] = [10, MANY_PAGES].map((pages) => inProcess([], 'pages', String(pages))[0]!) as [number, number];
  console.log('\nMemory for one combined file of such pages, each another one');
  line('10 pages, peak', `${few} MB`);
  line(`${MANY_PAGES} pages, peak`, `${many} MB`, 'wanted: under 500');
  line('300 pages over 10 pages', `× ${(many / few).toFixed(2)}`);
}

/** A file of many entities, inspected and published, each in a process of its own. */
function large(entities: number): void {
  const path = join(folder, 'large.dxf');
  writeFileSync(path, sampleDxf(BUILDING_PARTS, entities));
  const megabytes = statSync(path).size / 1e6;
  console.log(`\nA DXF of ${entities} entities, ${megabytes.toFixed(0)} MB`);
  const took = LARGE_WORK.map((work) => [work, inProcess([], 'large-work', path, work)] as const);
  const [[, [lines]]] = took as unknown as [[string, [number]]];
  for (const [work, [ms, peak]] of took) {
    const times = work === 'lines' ? '' : `× ${(ms! / lines).toFixed(1)} of reading its lines`;
    line(work === 'lines' ? 'reading its lines' : work, `${(ms! / 1000).toFixed(1)} s`, times);
    line('  peak', `${peak} MB`, `× ${(peak! / megabytes).toFixed(1)} of the file`);
  }
}

const folder = mkdtempSync(join(tmpdir(), 'folvex-bench-'));
try {
  if (process.argv[2] === 'nesting') benchNesting();
  else if (process.argv[2] === 'sample') writeFileSync(process.argv[3]!, sampleDxf(BUILDING_PARTS));
  else if (process.argv[2] === 'page') writeFileSync(process.argv[3]!, pageDxf(sample(1)));
  else if (process.argv[2] === 'pages') {
    const { writeMany } = await import('./many-pages');
    await writeMany(Number(process.argv[3]), join(folder, 'many.pdf'));
    console.log(peakMb());
  } else if (process.argv[2] === 'read') readOnce(process.argv[3]!);
  else if (process.argv[2] === 'large') large(Number(process.argv[3] ?? LARGE_ENTITIES));
  else if (process.argv[2] === 'large-work') {
    const ms = await workOn(process.argv[3]!, process.argv[4] as LargeWork);
    console.log(Math.round(ms), peakMb());
  } else if (process.argv[2] === 'svg') await compareSvgFiles(folder, process.argv.slice(4), Number(process.argv[3]));
  else {
    await writing(folder);
    await reading();
    memory();
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
