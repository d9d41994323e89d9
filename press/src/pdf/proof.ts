import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { PDFArray, PDFDict, PDFName, PDFNumber, type PDFDocument } from '@cantoo/pdf-lib';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { emptyProof, POINTS_PER_MM, unpackParts, type Proof, type Recipe, type SheetPart } from '@folvex/core';
import { openPdf } from '@folvex/core/foreign';
import type { Lock } from './protect';

/** A finished file to be read again, with what it was made from. */
export interface ProofTask {
  path: string;
  /** Paths of the packed parts of its sheets, in order. */
  parts: string[];
  recipe: Recipe;
  /** What protects it, where something does. */
  lock?: Lock | undefined;
}

/** Sizes agree to this, mm; scales to this part of them. */
const [SIZE_MM, SCALE] = [0.005, 1e-6];
const MAX_DIFFERENCES = 20;
/** What is larger is read again by qpdf only: the other readers hold all of a file, and more, in memory. */
const MAX_BYTES = 150e6;

/**
 * Reads a file again: pages, sizes, text, layers and links by pdf.js; fonts and measuring by a general PDF library; its
 * structure by qpdf, where that is on the machine.
 */
export async function proofOf(task: ProofTask, mostBytes = MAX_BYTES): Promise<Proof> {
  if (!task.lock) return proofOfOpen(task, mostBytes);
  // Nobody else can read this folder.
  const folder = mkdtempSync(join(tmpdir(), 'folvex-proof-'));
  const opened = join(folder, 'opened.pdf');
  try {
    const answer = await decrypt(task.path, task.lock, folder, opened);
    if (!answer)
      return { ...emptyProof(), unread: 'It is protected by a password, and qpdf could not be run to open it.' };
    if (answer.fault) return { ...emptyProof(), differences: [`It cannot be opened by its key: ${answer.fault}.`] };
    return await proofOfOpen({ ...task, path: opened }, mostBytes);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Writes a copy of a protected file without its protection. The key goes in a file: others can see a program's arguments. */
async function decrypt(path: string, lock: Lock, folder: string, copy: string): Promise<Answer | undefined> {
  const key = join(folder, 'key');
  writeFileSync(key, Buffer.from(lock.key, 'base64').toString('hex'), { mode: 0o600 });
  return qpdf(path, '--password-is-hex-key', `--password-file=${key}`, '--decrypt', path, copy);
}

async function proofOfOpen({ path, parts, recipe }: ProofTask, mostBytes: number): Promise<Proof> {
  const proof: Proof = emptyProof();
  if (statSync(path).size > mostBytes) {
    await checkStructure(path, proof);
    const unread = `It is larger than ${Math.round(mostBytes / 1e6)} MB; only its structure was looked at.`;
    return { ...proof, unread };
  }
  const expected = parts.flatMap((part) => unpackParts(readFileSync(part)).map(factsOf));
  const bytes = new Uint8Array(readFileSync(path));
  const opened = await openPdf(bytes, path);
  if (!opened.ok) return { ...proof, differences: [opened.problem.sentence] };
  await checkStructure(path, proof);
  let task: ReturnType<typeof getDocument> | undefined;
  try {
    measure(opened.value.document, expected, recipe, proof);
    task = getDocument({ data: bytes, verbosity: 0 });
    const document = await task.promise;
    proof.pages = document.numPages;
    if (proof.pages !== expected.length) differ(proof, `It has ${proof.pages} pages, not ${expected.length}.`);
    proof.layers = [...(await document.getOptionalContentConfig())].length;
    if (proof.layers === 0 && expected.some(({ layered }) => layered)) differ(proof, 'Its layers are not found.');
    for (const [i, wanted] of expected.entries()) {
      if (i >= proof.pages) break;
      const page = await document.getPage(i + 1);
      const [, , width, height] = page.view.map((points) => (points * page.userUnit) / POINTS_PER_MM) as [
        number,
        number,
        number,
        number,
      ];
      if (Math.abs(width - wanted.width) > SIZE_MM || Math.abs(height - wanted.height) > SIZE_MM) {
        const [found, meant] = [
          [width, height],
          [wanted.width, wanted.height],
        ].map((size) => size.map((side) => side.toFixed(2)).join(' × '));
        differ(proof, `Page ${i + 1} measures ${found} mm, not ${meant}.`);
      }
      const { items } = await page.getTextContent({ disableNormalization: true });
      const characters = items.reduce((sum, item) => sum + ('str' in item ? countOf(item.str) : 0), 0);
      proof.characters += characters;
      const [least, most] = wanted.characters;
      if (characters < least || characters > most) {
        differ(proof, `Page ${i + 1} has ${characters} characters of text, not ${most}.`);
      }
      proof.links += (await page.getAnnotations()).length;
      page.cleanup();
    }
  } catch (error) {
    differ(proof, `It cannot be read to the end (${(error as Error).message}).`);
  } finally {
    await task?.destroy();
  }
  return proof;
}

const run = promisify(execFile);
const MAX_CHECK_MS = 60_000;

/** What qpdf says of a file. */
interface Answer {
  /** What is wrong with it. */
  fault?: string;
}

/** Runs qpdf on a file; undefined where it is not on the machine or takes too long, which says nothing about the file. */
async function qpdf(path: string, ...options: string[]): Promise<Answer | undefined> {
  try {
    await run('qpdf', options, { timeout: MAX_CHECK_MS, maxBuffer: 1 << 24 });
    return {};
  } catch (error) {
    const {
      code,
      stdout = '',
      stderr = '',
      killed,
    } = error as { code?: unknown; killed?: boolean; stdout?: string; stderr?: string };
    if (code === 'ENOENT' || killed) return undefined;
    const lines = `${stderr}\n${stdout}`.split('\n');
    const said = lines.find((line) => /warning|error/i.test(line)) ?? lines.find((line) => line.trim() !== '');
    return { fault: (said ?? 'it is damaged').replaceAll(path, 'the file').trim() };
  }
}

async function checkStructure(path: string, proof: Proof): Promise<void> {
  const answer = await qpdf(path, '--check', path);
  if (answer?.fault) differ(proof, `qpdf finds a fault in it: ${answer.fault}.`);
  else if (answer) proof.sound = true;
}

interface PageFacts {
  width: number;
  height: number;
  characters: SheetPart['characters'];
  layered: boolean;
  scales: number[];
}

function factsOf({ widthMm, heightMm, characters, layers, measured }: SheetPart): PageFacts {
  const scales = measured.map(({ scale, unit }) => scale * (unit === 'm' ? 1000 : 304.8));
  return { width: widthMm, height: heightMm, characters, layered: layers.length > 0, scales };
}

/** Fonts that are all there, and what a unit of each view measures. */
function measure(document: PDFDocument, expected: readonly PageFacts[], recipe: Recipe, proof: Proof): void {
  const name = (text: string): PDFName => PDFName.of(text);
  for (const [, object] of document.context.enumerateIndirectObjects()) {
    if (!(object instanceof PDFDict) || object.get(name('Type'))?.toString() !== '/FontDescriptor') continue;
    proof.fonts++;
    if (!object.has(name('FontFile2'))) differ(proof, `The font ${object.get(name('FontName'))} is not in the file.`);
  }
  if (recipe.version === '1.4') return;
  document.getPages().forEach(({ node }, i) => {
    const wanted = expected[i]?.scales ?? [];
    const areas = node.lookupMaybe(name('VP'), PDFArray);
    const unit = node.lookupMaybe(name('UserUnit'), PDFNumber)?.asNumber() ?? 1;
    wanted.forEach((scale, k) => {
      const lengths = areas?.lookup(k, PDFDict).lookup(name('Measure'), PDFDict).lookup(name('X'), PDFArray);
      const factor = lengths?.lookup(0, PDFDict).lookup(name('C'), PDFNumber).asNumber() ?? 0;
      // A mm of paper in the real unit, by the file and by the view.
      const found = (factor * POINTS_PER_MM) / unit;
      if (Math.abs(found * scale - 1) < SCALE) proof.measured++;
      else differ(proof, `View ${k + 1} on page ${i + 1} does not have its true scale.`);
    });
  });
}

function differ(proof: Proof, sentence: string): void {
  if (proof.differences.length < MAX_DIFFERENCES) proof.differences.push(sentence);
}

function countOf(text: string): number {
  return [...text].filter((character) => character.trim() !== '').length;
}
