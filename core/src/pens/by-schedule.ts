import { pickMarks } from '../page/pick';
import { inColour, recoloured, STROKE, UNITS_PER_MM, type Page, type PageLayer, type Pen } from '../page/page';
import { screened } from './ink';
import { colourOf, ruleFor, type RuleSubject, type PenOutcome, type PenSchedule } from './schedule';

/** Weights of all lines of a page, whatever they come from. */
export interface WeightLimits {
  /** No line is thinner, mm. */
  least?: number;
  /**
   * By how much every line is thinner or heavier, before that: 0.5 for a set at half its size. Lines as wide as they are
   * drawn keep their width.
   */
  factor?: number;
}

/** A page whose marks have the pens that a schedule gives them. What the sheet itself adds keeps its own. */
export function inkBySchedule(page: Page, schedule: PenSchedule | undefined, limits: WeightLimits = {}): Page {
  if (!schedule?.rules.length && !limits.least && (limits.factor ?? 1) === 1) return page;
  const pens: Pen[] = [];
  const known = new Map<string, number>();
  const numberOf = (pen: Pen): number => {
    const key = JSON.stringify(pen);
    let number = known.get(key);
    if (number === undefined) known.set(key, (number = pens.push(pen) - 1));
    return number;
  };
  /** New pen of each layer, old pen and kind; -1 where it does not print. */
  const become = new Map<number, number>();
  const pen = new Uint32Array(page.markCount);
  let hidden = false;
  const kept: number[] = [];
  for (let mark = 0; mark < page.markCount; mark++) {
    const [layer, old] = [page.layer[mark]!, page.pen[mark]!];
    const stroked = page.kind[mark] === STROKE;
    const key = (layer * (page.pens.length + 1) + old) * 2 + (stroked ? 1 : 0);
    let next = become.get(key);
    if (next === undefined) {
      const given = page.pens[old] ?? NO_PEN;
      const onLayer = page.layers[layer]!;
      const outcome = schedule && !given.masks ? outcomeFor(schedule, onLayer, given, stroked) : undefined;
      const kind = kindOf(onLayer, given, stroked);
      if (given.masks) next = numberOf(given);
      else next = outcome?.hidden ? -1 : numberOf(limited(changed(given, outcome, kind), limits, kind));
      become.set(key, next);
    }
    if (next < 0) hidden = true;
    else {
      pen[mark] = next;
      kept.push(mark);
    }
  }
  const inked = { ...page, pens, pen };
  return hidden ? pickMarks(inked, kept) : inked;
}

const NO_PEN: Pen = { width: 0, colour: 0, dashes: [], round: true, opacity: 100 };

/** A mark of a page as rules see it. */
export function ruleSubject({ source, name, view = '' }: PageLayer, pen: Pen, stroked: boolean): RuleSubject {
  return {
    layer: name,
    drawing: source,
    view,
    colour: pen.colour,
    weight: stroked ? pen.width / UNITS_PER_MM : 0,
    lineType: pen.lineType ?? '',
  };
}

function outcomeFor(schedule: PenSchedule, layer: PageLayer, pen: Pen, stroked: boolean): PenOutcome | undefined {
  return layer.source === '' ? undefined : ruleFor(schedule, ruleSubject(layer, pen, stroked))?.rule;
}

/** An area, a line with a weight, or a line of a drawing that is as wide as it is drawn, such as a wall. */
type MarkKind = 'area' | 'weight' | 'width';

function kindOf({ source }: PageLayer, pen: Pen, stroked: boolean): MarkKind {
  if (!stroked) return 'area';
  return source !== '' && !pen.round ? 'width' : 'weight';
}

function changed(pen: Pen, outcome: PenOutcome | undefined, kind: MarkKind): Pen {
  if (!outcome) return pen;
  const { weight, dashes, ends } = outcome;
  return {
    ...painted(pen, outcome),
    ...(kind === 'weight' && weight !== undefined && { width: Math.round(weight * UNITS_PER_MM) }),
    ...(kind !== 'area' && dashes && { dashes: dashes.map((dash) => dash * UNITS_PER_MM) }),
    ...(ends && { round: ends === 'round', shape: undefined }),
  };
}

/** A pen in the colour of its rule, or in its own with its gradient; printed as a screen where the rule says so. */
function painted(pen: Pen, { colour, screen = 100 }: PenOutcome): Pen {
  if (colour !== undefined) return inColour(pen, screened(colourOf(colour), screen));
  return screen === 100 ? pen : recoloured(pen, (own) => screened(own, screen));
}

function limited(pen: Pen, { least = 0, factor = 1 }: WeightLimits, kind: MarkKind): Pen {
  if (kind === 'area') return pen;
  const width = kind === 'weight' ? Math.round(pen.width * factor) : pen.width;
  return { ...pen, width: Math.max(width, Math.round(least * UNITS_PER_MM)) };
}

/** How many lines of a page there are of each layer, colour and weight as drawn; what the sheet adds is left out. */
export function linesUsed(page: Page): (RuleSubject & { count: number })[] {
  const counts = new Map<number, number>();
  for (let mark = 0; mark < page.markCount; mark++) {
    if (page.kind[mark] !== STROKE || page.layers[page.layer[mark]!]!.source === '') continue;
    const key = page.layer[mark]! * page.pens.length + page.pen[mark]!;
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return [...counts].map(([key, count]) => {
    const [layer, pen] = [Math.floor(key / page.pens.length), key % page.pens.length];
    return { ...ruleSubject(page.layers[layer]!, page.pens[pen]!, true), count };
  });
}
