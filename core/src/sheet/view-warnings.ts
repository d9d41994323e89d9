import type { Place, Problem } from '../problem';
import type { Sheet } from './model';
import type { ViewNotes } from './place-view';
import type { WalkStops } from './walk';

/** What a view had to leave out or replace, in words. */
export function warningsOf(notes: ViewNotes, file: string, sheet: Sheet): Problem[] {
  const place = { file, sheet: sheet.number };
  const warnings: Problem[] = [];
  if (notes.missing.size > 0) {
    const sentence = `No shipped typeface has ${[...notes.missing].join(' ')}; an empty box stands for it.`;
    warnings.push({ code: 'sheet.glyphs', sentence, place });
  }
  if (notes.dense.size > 0) {
    const sentence = `Hatch lines on ${[...notes.dense].join(', ')} are too close to print at this scale; a tint is shown instead.`;
    warnings.push({ code: 'sheet.dense-hatch', sentence, place });
  }
  return [...warnings, ...stopWarnings(notes.stops, place)];
}

/** Which references were left out, and why. */
export function stopWarnings(stops: WalkStops, place: Place): Problem[] {
  const warnings: Problem[] = [];
  for (const [why, blocks] of stops) {
    const names = [...blocks].slice(0, 5).join(', ');
    const sentence = {
      cycle: `Block ${names} contains itself; the inner reference was left out.`,
      'too-many': `Block references multiply beyond five million entities (${names}); those references were left out.`,
      'missing-block': `The drawing refers to a block it does not hold (${names}); the reference was left out.`,
    }[why];
    warnings.push({ code: `sheet.${why}`, sentence, place });
  }
  return warnings;
}
