import { PageBuilder, Path, textRuns, type FontSet, type Page } from '@folvex/core';

export const SEGMENTS = 60_000;
export const TEXTS = 2_500;
const PAPER = { width: 841, height: 594 };
const PENS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7];
const LAYERS = 12;
const COLOURS = [0x000000, 0x444444, 0x8a2f1c, 0x2f5d8a];

/** A repeatable stream of numbers in 0…1 (mulberry32): the bench makes its sheets itself, the same in every run. */
export function numbersFrom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

/** Everything on the sample page in plain numbers, so that every writer draws the very same. */
export interface Sample {
  width: number;
  height: number;
  lines: { layer: number; weight: number; colour: number; points: number[] }[];
  texts: { layer: number; text: string; size: number; x: number; y: number }[];
}

/** Half of the segments single, half in polylines of ten, in runs of one layer as drawings have them. */
export function sample(seed: number): Sample {
  const next = numbersFrom(seed);
  const lines: Sample['lines'] = [];
  let segments = 0;
  while (segments < SEGMENTS) {
    const layer = Math.floor(next() * LAYERS);
    const [weight, colour] = [PENS[layer % PENS.length]!, COLOURS[layer % COLOURS.length]!];
    const run = Math.min(1 + Math.floor(next() * 60), SEGMENTS - segments);
    for (let i = 0; i < run && segments < SEGMENTS; i++) {
      const count = Math.min(next() < 1 / 11 ? 10 : 1, SEGMENTS - segments);
      const points = [20 + next() * 800, 20 + next() * 550];
      for (let k = 0; k < count; k++) points.push(points.at(-2)! + next() * 12 - 6, points.at(-2)! + next() * 12 - 6);
      lines.push({ layer, weight, colour, points });
      segments += count;
    }
  }
  const texts = Array.from({ length: TEXTS }, (_, i) => ({
    layer: i % LAYERS,
    text: `Room ${Math.floor(next() * 900)}  ${(next() * 60).toFixed(1)} m²`,
    size: 2.5,
    x: 20 + next() * 780,
    y: 20 + next() * 550,
  }));
  return { ...PAPER, lines, texts };
}

/** The sample as a Page. */
export function pageOf(from: Sample, fonts: FontSet): Page {
  const builder = new PageBuilder(from.width, from.height);
  const path = new Path();
  for (const { layer, weight, colour, points } of from.lines) {
    path.clear();
    path.moveTo(points[0]!, points[1]!);
    for (let i = 2; i < points.length; i += 2) path.lineTo(points[i]!, points[i + 1]!);
    builder.stroke(path, builder.layer('bench.dxf', `L${layer}`), builder.pen(weight, colour));
  }
  for (const { layer, text, size, x, y } of from.texts) {
    for (const run of textRuns(fonts, 'sans', text)) {
      const advance = run.advance * size;
      const box = { xmin: x, ymin: y, xmax: x + advance, ymax: y + size };
      const placed = { text: run.text, font: run.font, size, a: 1, b: 0, c: 0, d: 1, x, y, advance };
      builder.text(placed, box, builder.layer('bench.dxf', `L${layer}`), builder.pen(0, 0));
    }
  }
  return builder.build();
}
