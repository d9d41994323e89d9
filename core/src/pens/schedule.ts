import { matchesPattern } from '../drawing/patterns';
import { withOwn } from '../shipped';

/** What a rule does to the lines that it matches; what is absent stays as it is drawn. */
export interface PenOutcome {
  /** Line weight, mm. */
  weight?: number;
  /** `#rrggbb`. */
  colour?: string;
  /** Per cent of its ink that prints. */
  screen?: number;
  /** Dashes and gaps in turn, mm on paper; empty: a continuous line. */
  dashes?: number[];
  ends?: 'round' | 'square';
  /** True where it does not print. */
  hidden?: true;
}

/** A rule of a pen schedule: all that it states must hold. Patterns know `*` and `?` and do not mind letter case. */
export interface PenRule extends PenOutcome {
  /** Pattern of the layer's name. */
  layer?: string;
  /** Pattern of the drawing's file name. */
  drawing?: string;
  /** Pattern of the title of the view, or its id where it has none. */
  view?: string;
  /** As drawn, `#rrggbb`. */
  ofColour?: string;
  /** As drawn, mm: from and to, both counted in. */
  ofWeight?: [from: number, to: number];
  /** Pattern of the line type's name; `continuous` for none. */
  ofLineType?: string;
}

export interface PenSchedule {
  id: string;
  name: string;
  /** The first that matches counts. */
  rules: PenRule[];
}

/** A line as it is drawn, as far as rules ask. */
export interface RuleSubject {
  layer: string;
  drawing: string;
  view: string;
  /** 0xRRGGBB. */
  colour: number;
  /** mm; 0 for fills and texts. */
  weight: number;
  /** Empty for a continuous line. */
  lineType: string;
}

/** The first rule of a schedule that matches a line, with its number; undefined where none does. */
export function ruleFor(schedule: PenSchedule, line: RuleSubject): { rule: PenRule; index: number } | undefined {
  const index = schedule.rules.findIndex((rule) => isMeant(rule, line));
  return index < 0 ? undefined : { rule: schedule.rules[index]!, index };
}

function isMeant({ layer, drawing, view, ofColour, ofWeight, ofLineType }: PenRule, line: RuleSubject): boolean {
  // Widths are whole hundredths of a millimetre: what is typed as 0.35 must meet them.
  const near = 0.0005;
  return (
    (layer === undefined || matchesPattern(layer, line.layer)) &&
    (drawing === undefined || matchesPattern(drawing, line.drawing)) &&
    (view === undefined || matchesPattern(view, line.view)) &&
    (ofColour === undefined || colourOf(ofColour) === line.colour) &&
    (ofWeight === undefined || (line.weight >= ofWeight[0] - near && line.weight <= ofWeight[1] + near)) &&
    (ofLineType === undefined || matchesPattern(ofLineType, line.lineType || 'continuous'))
  );
}

/** `#1a4d8f` as 0xRRGGBB. */
export function colourOf(text: string): number {
  return Number.parseInt(text.replace('#', ''), 16);
}

/** Why a line is drawn as it is: `A-WALL* → 0.5`. */
export function ruleInWords(rule: PenRule): string {
  const { layer, drawing, view, ofColour, ofWeight, ofLineType } = rule;
  const [from, to] = ofWeight ?? [0, 0];
  const when = [
    layer,
    drawing && `in ${drawing}`,
    view && `seen in ${view}`,
    ofColour,
    ofWeight &&
      (from === to ? `drawn ${from}` : to >= HEAVIEST_MM ? `drawn ${from} or more` : `drawn ${from} to ${to}`),
    ofLineType && `line type ${ofLineType}`,
  ];
  const then = [
    rule.hidden && 'not printed',
    rule.weight !== undefined && String(rule.weight),
    rule.colour,
    rule.screen !== undefined && `${rule.screen} %`,
    rule.dashes && (rule.dashes.length > 0 ? `dashes ${rule.dashes.join(' ')}` : 'continuous'),
    rule.ends && `${rule.ends} ends`,
  ];
  return `${when.filter(Boolean).join(', ') || 'everything'} → ${then.filter(Boolean).join(', ') || 'as drawn'}`;
}

/** ISO 128-20, from memory: widths of lines, mm, each √2 times the one before. */
export const ISO_WEIGHTS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7, 1, 1.4, 2] as const;
/** No upper limit. */
const HEAVIEST_MM = 100;

/** Layers that step back: of other drawings, of what is there already, of furniture (common practice). */
const BACKGROUND = ['*|*', '*EXST*', '*-FURN*'];

/** The schedules that every project has. */
export const SHIPPED_SCHEDULES: readonly PenSchedule[] = [
  { id: 'as-drawn', name: 'As drawn', rules: [] },
  {
    id: 'iso-five',
    name: 'ISO five weights',
    rules: [
      { ofWeight: [0.01, 0.21], weight: 0.18 },
      { ofWeight: [0.21, 0.3], weight: 0.25 },
      { ofWeight: [0.3, 0.42], weight: 0.35 },
      { ofWeight: [0.42, 0.59], weight: 0.5 },
      { ofWeight: [0.59, HEAVIEST_MM], weight: 0.7 },
    ],
  },
  { id: 'all-black', name: 'All black', rules: [{ ofColour: '#ffffff' }, { colour: '#000000' }] },
  {
    id: 'half-tone',
    name: 'Half-tone background',
    rules: BACKGROUND.map((layer) => ({ layer, screen: 50 })),
  },
  {
    id: 'thin-background',
    name: 'Thin background',
    // For plotters that print half-tones as dots (common practice).
    rules: BACKGROUND.map((layer) => ({ layer, weight: ISO_WEIGHTS[0] })),
  },
];

/** All schedules of a project: the shipped ones and its own, which may take the place of a shipped one. */
export function schedulesOf({ penSchedules }: { penSchedules?: PenSchedule[] }): PenSchedule[] {
  return withOwn(SHIPPED_SCHEDULES, penSchedules);
}
