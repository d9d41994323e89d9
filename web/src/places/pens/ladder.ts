import { ISO_WEIGHTS, ruleFor, ruleInWords, type PenRule, type PenSchedule } from '@folvex/core';
import type { LineCount } from '../../engine/engine';

/** A layer on the ladder: what it prints at, and why. */
export interface LadderLayer {
  layer: string;
  /** mm. */
  weight: number;
  lines: number;
  colour: string;
  /** The rule behind it, in words; where there is none, that it is drawn so. */
  reason: string;
  hidden: boolean;
}

export interface Rung {
  /** mm; one of ISO 128-20, or another that something prints at. */
  weight: number;
  iso: boolean;
  hanging: LadderLayer[];
}

/** The rungs of ISO 128-20, and those between them that something hangs on, the heaviest first. */
export function ladderOf(lines: readonly LineCount[], schedule: PenSchedule): Rung[] {
  const byLayer = new Map<string, LadderLayer>();
  for (const line of lines) {
    const found = ruleFor(schedule, line);
    const weight = found?.rule.weight ?? line.weight;
    const key = `${line.layer}\n${weight}`;
    const colour = found?.rule.colour ?? `#${line.colour.toString(16).padStart(6, '0')}`;
    const known = byLayer.get(key);
    if (known) known.lines += line.count;
    else {
      const reason = found ? ruleInWords(found.rule) : 'as it is drawn';
      byLayer.set(key, {
        layer: line.layer,
        weight,
        lines: line.count,
        colour,
        reason,
        hidden: found?.rule.hidden ?? false,
      });
    }
  }
  const all = [...byLayer.values()];
  const weights = new Set<number>([...ISO_WEIGHTS, ...all.map(({ weight }) => weight)]);
  return [...weights]
    .sort((a, b) => b - a)
    .map((weight) => ({
      weight,
      iso: (ISO_WEIGHTS as readonly number[]).includes(weight),
      hanging: all.filter((one) => one.weight === weight).sort((a, b) => (a.layer < b.layer ? -1 : 1)),
    }));
}

/** The rung next to one among those of ISO; itself at the ends. */
export function nextRung(weight: number, by: 1 | -1): number {
  const heavier = ISO_WEIGHTS.find((one) => one > weight + 1e-9);
  const lighter = [...ISO_WEIGHTS].reverse().find((one) => one < weight - 1e-9);
  return (by > 0 ? heavier : lighter) ?? weight;
}

/** A schedule by which a layer prints at a weight: a rule of its own before all others, which keeps what else was said. */
export function withWeight(schedule: PenSchedule, line: LineCount, weight: number): PenSchedule {
  const exact = (rule: PenRule): boolean =>
    rule.layer?.toLowerCase() === line.layer.toLowerCase() && Object.keys(CONDITIONS).every((key) => !(key in rule));
  const { colour, screen, dashes, ends, hidden } = ruleFor(schedule, line)?.rule ?? {};
  const rule: PenRule = {
    layer: line.layer,
    weight,
    ...(colour && { colour }),
    ...(screen !== undefined && { screen }),
    ...(dashes && { dashes }),
    ...(ends && { ends }),
    ...(hidden && { hidden }),
  };
  return { ...schedule, rules: [rule, ...schedule.rules.filter((one) => !exact(one))] };
}

/** Conditions besides the layer's name. */
const CONDITIONS = { drawing: 1, view: 1, ofColour: 1, ofWeight: 1, ofLineType: 1 };
