import {
  box,
  describePaper,
  formatScale,
  MM_PER_UNIT,
  namesOf,
  paperNames,
  paperOf,
  paperOfChoice,
  parseScale,
  scaleOfSheet,
  type FontId,
} from '@folvex/core';
import type { Orientation, OwnPaper, PaperChoice, PaperSize, ProjectFacts, Sheet } from '@folvex/core';
import { unitOf } from '../state/drawings/unit-of';
import type { DrawingInfo } from '@folvex/contract';

/** `1 file`, `14 files`. */
export function countOf(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en')} ${count === 1 ? one : many}`;
}

/** `0.4 s`, `12 s`, `3 min 20 s`. */
export function durationInWords(milliseconds: number): string {
  if (milliseconds < 10_000) return `${(milliseconds / 1000).toFixed(1)} s`;
  const seconds = Math.round(milliseconds / 1000);
  return seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
}

/** Day and time of an instant, `2026-11-18 09:41`, local time. */
export function momentInWords(iso: string): string {
  const at = new Date(iso);
  const two = (value: number): string => String(value).padStart(2, '0');
  const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${day} ${two(at.getHours())}:${two(at.getMinutes())}`;
}

/** The same to the second, where it distinguishes runs. */
export function secondInWords(iso: string): string {
  return `${momentInWords(iso)}:${String(new Date(iso).getSeconds()).padStart(2, '0')}`;
}

export function today(): string {
  return momentInWords(new Date().toISOString()).slice(0, 10);
}

/** `A1 · 841 × 594 mm`; the millimetres alone where the size has no name. */
export function paperInWords(paper: PaperSize): string {
  const name = describePaper(paper);
  const size = `${round(paper.width)} × ${round(paper.height)}`;
  return name === size ? `${size} mm` : `${name} · ${size} mm`;
}

/** A measured paper with every named size it may be: `762 × 1067 mm: Arch E1 (30 × 42 in)`. */
export function sizesInWords(paper: PaperSize): string {
  const mm = `${round(paper.width)} × ${round(paper.height)} mm`;
  const names = namesOf(paper).map(({ name, differenceMm }) => {
    const off = Math.max(...differenceMm.map(Math.abs));
    const inches = /Arch|ASME/.test(name) ? ` (${inch(paper.width)} × ${inch(paper.height)} in)` : '';
    return off > 0.5 ? `${name}${inches}, ${round(off)} mm off` : `${name}${inches}`;
  });
  return names.length > 0 ? `${mm}: ${names.join('; ')}` : `${mm}, no named size`;
}

function inch(mm: number): string {
  return String(Math.round((mm / 25.4) * 4) / 4);
}

/** The paper of a sheet where it is chosen; undefined where it follows from the views. */
export function paperOfSheet(sheet: Sheet, project: Pick<ProjectFacts, 'papers'> | null): PaperSize | undefined {
  const { paper } = sheet;
  return paper && paperOfChoice(paper, project?.papers);
}

/** Every paper that has a name, lying one way, with its size: `A1 · 841 × 594 mm`. */
export function papersInWords(
  orientation: Orientation,
  own: readonly OwnPaper[] = [],
): { name: string; words: string }[] {
  return paperNames(own).map((name) => {
    const words = paperInWords(paperOf(name, orientation, own)!);
    return { name, words: words.startsWith(name) ? words : `${name} · ${words}` };
  });
}

/** A chosen paper: `A1, landscape`. */
export function paperChoiceInWords(choice: PaperChoice): string {
  return 'size' in choice
    ? `${round(choice.size[0])} × ${round(choice.size[1])} mm`
    : `${choice.name}, ${choice.orientation}`;
}

/**
 * The scales of the sheet's views as its title block shows them; `fit` is known only once composed. `viewports`: of the
 * layout that it takes over, where it was composed.
 */
export function scalesInWords(sheet: Sheet, viewports: readonly { scale: number }[] = []): string {
  if (sheet.from) {
    const laid = new Set(viewports.map(({ scale }) => formatScale(scale)));
    return laid.size > 0 ? [...laid].join(', ') : 'as laid out';
  }
  const known = plannedScales.get(sheet.views);
  if (known !== undefined) return known;
  const words = plannedScalesInWords(sheet.views);
  plannedScales.set(sheet.views, words);
  return words;
}

/** What is known already, since thousands of sheets are listed again and again. */
const plannedScales = new WeakMap<Sheet['views'], string>();

function plannedScalesInWords(views: Sheet['views']): string {
  const scales = views.flatMap((view) => parseScale(view.scale) ?? []);
  if (scales.length < views.length) return 'fitted';
  const different = [...new Set(scales.map((scale) => formatScale(scale)))];
  return different.length > 1 ? different.join(', ') : scaleOfSheet(scales);
}

/** Real size of what is visible in a drawing's model, mm; undefined without a unit or anything visible. */
export function realSize(drawing: DrawingInfo): PaperSize | undefined {
  const unit = unitOf(drawing);
  if (!unit || !drawing.extents) return undefined;
  const [xmin, ymin, xmax, ymax] = drawing.extents;
  const extents = { xmin, ymin, xmax, ymax };
  return { width: box.width(extents) * MM_PER_UNIT[unit], height: box.height(extents) * MM_PER_UNIT[unit] };
}

/** A real size in metres, or in mm where it is less than one: `51.0 × 33.3 m`. */
export function sizeInWords({ width, height }: PaperSize): string {
  if (Math.max(width, height) < 1000) return `${round(width)} × ${round(height)} mm`;
  const metres = (mm: number): string => (mm / 1000).toFixed(mm < 100_000 ? 1 : 0);
  return `${metres(width)} × ${metres(height)} m`;
}

function round(value: number): string {
  return String(Math.round(value * 10) / 10);
}

/** What the shipped typefaces are called here. */
const FONT_WORDS: Readonly<Partial<Record<FontId, string>>> = {
  sans: 'sans serif',
  condensed: 'condensed',
  serif: 'serif',
  mono: 'fixed width',
  technical: 'technical',
  symbols: 'symbols',
};

/** A shipped typeface in words. */
export function fontInWords(font: FontId): string {
  return FONT_WORDS[font] ?? font;
}
