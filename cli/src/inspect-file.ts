import type { ProblemCode } from '@folvex/core';
import { readFileSync, statSync } from 'node:fs';
import { basename, resolve } from 'node:path';
import {
  box as boxes,
  MAX_DRAWING_BYTES,
  MM_PER_UNIT,
  namesOf,
  tooLargeSentence,
  type LengthUnit,
  type PaperSize,
  type Problem,
} from '@folvex/core';
import { inspectDrawing, sha256, type DrawingFacts } from '@folvex/press';

/** The result of `folvex inspect` for one file. */
export type Inspected = { file: string; bytes: number; sha256: string } & (
  | ({ ok: true; realSizeMm: PaperSize | null; layouts: NamedLayout[] } & Omit<DrawingFacts, 'layouts'>)
  | { ok: false; problem: Problem }
);

interface NamedLayout {
  name: string;
  paperMm: PaperSize | null;
  /** Every named size that the paper may be, nearest first, with how far it is off, mm. */
  sizes: { name: string; orientation: string; differenceMm: [number, number] }[];
}

/** Reads a file as it would be read for publishing, and reports what its card in the interface shows. */
export async function inspectFile(path: string): Promise<Inspected> {
  const file = { file: path, bytes: 0, sha256: '' };
  const name = basename(path);
  try {
    const { size } = statSync(path);
    if (size > MAX_DRAWING_BYTES) return refused(file, 'upload.too-large', tooLargeSentence(name));
    const bytes = readFileSync(path);
    Object.assign(file, { bytes: bytes.length, sha256: sha256(bytes) });
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code ?? 'error';
    return refused(file, 'file.unreadable', `${path} cannot be read (${code}); check its name and your permission.`);
  }
  const found = await inspectDrawing({ name, path: resolve(path), hash: file.sha256 });
  if (!found.ok) return { ...file, ok: false, problem: found.problem };
  const { layouts, ...facts } = found.value.facts;
  return { ...file, ok: true, ...facts, realSizeMm: realSize(facts), layouts: layouts.map(named) };
}

function refused(file: Pick<Inspected, 'file' | 'bytes' | 'sha256'>, code: ProblemCode, sentence: string): Inspected {
  return { ...file, ok: false, problem: { code, sentence, place: { file: file.file } } };
}

function named({ name, paper }: DrawingFacts['layouts'][number]): NamedLayout {
  return { name, paperMm: paper, sizes: paper ? namesOf(paper) : [] };
}

function realSize({ extents, unit }: Pick<DrawingFacts, 'extents' | 'unit'>): PaperSize | null {
  if (!extents || !unit) return null;
  const [xmin, ymin, xmax, ymax] = extents;
  const mm = MM_PER_UNIT[unit as LengthUnit];
  const box = { xmin, ymin, xmax, ymax };
  return { width: boxes.width(box) * mm, height: boxes.height(box) * mm };
}
