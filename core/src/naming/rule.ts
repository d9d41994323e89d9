import type { Outcome } from '../problem';
import { withoutTrailing } from './trailing';
import { STEPS, type Step } from './steps';

/** Values of the fields that a rule may name, by path such as `sheet.number`. */
export type Fields = Readonly<Record<string, string>>;

/** A piece of a rule: literal text, a field with its steps, or a part that appears only when its fields have values. */
export type RulePiece =
  | { kind: 'text'; text: string }
  | { kind: 'field'; path: string; steps: { step: Step; args: string[] }[] }
  | { kind: 'optional'; pieces: RulePiece[] };

export interface NamingRule {
  source: string;
  pieces: RulePiece[];
}

/** What a rule came to: the name, and the fields outside optional parts that were blank. */
export interface NameResult {
  name: string;
  blank: string[];
}

/** What is wrong with a rule, and which of its characters: from `from` up to `to`, counted from 0. */
export interface RuleFault {
  sentence: string;
  from: number;
  to: number;
}

/**
 * Reads a rule: text with fields in square brackets, steps after `>`, optional parts as `(? … )`, a backslash before
 * a literal character. The problem of a wrong rule says what and where.
 */
export function parseRule(source: string): Outcome<NamingRule> {
  const { pieces, fault } = read(source);
  return fault
    ? { ok: false, problem: { code: 'naming.rule', sentence: fault.sentence, place: {} } }
    : { ok: true, value: { source, pieces } };
}

/** The first thing that is wrong with a rule; undefined where it can be read. */
export function faultOf(source: string): RuleFault | undefined {
  return read(source).fault;
}

function read(source: string): { pieces: RulePiece[]; fault: RuleFault | undefined } {
  const parser = new RuleParser(source);
  const pieces = parser.pieces(false);
  return { pieces, fault: parser.fault };
}

/** Values are cut here, characters, before and after each of their steps: names are far shorter, and steps can multiply. */
const MAX_VALUE = 4000;

/** What happens to blank fields: reported, or left out together with the separator next to them. */
export type Blanks = 'stop' | 'skip';

/** Applies a rule to fields. */
export function applyRule(rule: NamingRule, fields: Fields, blanks: Blanks = 'stop'): NameResult {
  const blank: string[] = [];
  const values = rule.pieces.map((piece) => valueOf(piece, fields, blank));
  if (blanks === 'skip') return { name: withoutBlanks(rule.pieces, values), blank: [] };
  return { name: values.join(''), blank };
}

const SEPARATOR = /[\s_.,;+\u2013\u2014-]/;
const SEPARATOR_BEHIND = /^[\s_.,;+\u2013\u2014-]+/;

/** The name without blank fields, each with the separator before it; at the beginning of a name the one behind it. */
function withoutBlanks(pieces: readonly RulePiece[], values: readonly string[]): string {
  let name = '';
  let cutNext = false;
  pieces.forEach((piece, i) => {
    const value = values[i]!;
    if (piece.kind === 'field' && value.trim() === '') {
      name = withoutTrailing(name, SEPARATOR);
      cutNext = name === '';
      return;
    }
    name += cutNext && piece.kind === 'text' ? value.replace(SEPARATOR_BEHIND, '') : value;
    cutNext &&= value === '';
  });
  return name;
}

/** Paths of all fields that a rule names. */
export function fieldsIn(rule: NamingRule): string[] {
  const paths = (pieces: RulePiece[]): string[] =>
    pieces.flatMap((p) => (p.kind === 'field' ? [p.path] : p.kind === 'optional' ? paths(p.pieces) : []));
  return [...new Set(paths(rule.pieces))];
}

function valueOf(piece: RulePiece, fields: Fields, blank: string[]): string {
  if (piece.kind === 'text') return piece.text;
  if (piece.kind === 'optional') {
    const missing: string[] = [];
    const text = piece.pieces.map((inner) => valueOf(inner, fields, missing)).join('');
    return missing.length > 0 ? '' : text;
  }
  const start = (fields[piece.path] ?? '').slice(0, MAX_VALUE);
  const value = piece.steps.reduce((text, { step, args }) => step.run(text, args).slice(0, MAX_VALUE), start);
  if (value.trim() === '') blank.push(piece.path);
  return value;
}

class RuleParser {
  fault: RuleFault | undefined;
  private at = 0;

  constructor(private readonly source: string) {}

  /** Reads up to the end, or up to the `)` that closes an optional part. */
  pieces(inOptional: boolean, begin = 0): RulePiece[] {
    const pieces: RulePiece[] = [];
    let text = '';
    const endText = (): void => {
      if (text) pieces.push({ kind: 'text', text });
      text = '';
    };
    while (this.at < this.source.length && !this.fault) {
      const c = this.source[this.at]!;
      if (c === '\\') {
        text += this.source[this.at + 1] ?? '';
        this.at += 2;
      } else if (c === '[') {
        endText();
        pieces.push(this.field());
      } else if (this.source.startsWith('(?', this.at)) {
        endText();
        const begin = this.at;
        this.at += 2;
        pieces.push({ kind: 'optional', pieces: this.pieces(true, begin) });
      } else if (c === ')' && inOptional) {
        this.at++;
        endText();
        return pieces;
      } else {
        text += c;
        this.at++;
      }
    }
    if (inOptional) {
      this.refuse('The part that begins with "(?" is never closed; add ")" where it ends.', begin, this.source.length);
    }
    endText();
    return pieces;
  }

  private field(): RulePiece {
    const start = this.at + 1;
    const end = this.closing(start);
    if (end < 0) {
      const words = `The field that begins at character ${this.at + 1} is never closed; add "]" after it.`;
      this.refuse(words, this.at, this.source.length);
      return { kind: 'text', text: '' };
    }
    this.at = end + 1;
    const [first = '', ...others] = this.source.slice(start, end).split('>');
    const path = first.trim();
    if (!/^[A-Za-z][\w.-]*$/.test(path)) {
      const words = `"${path}" at character ${start + 1} is not a field; write one like [sheet.number].`;
      this.refuse(words, start - 1, end + 1);
    }
    let at = start + first.length;
    const steps = others.map((text) => {
      const step = this.step(text.trim(), at, at + 1 + text.length);
      at += 1 + text.length;
      return step;
    });
    return { kind: 'field', path, steps };
  }

  /** Position of the bracket that closes a field; a backslash hides one. */
  private closing(from: number): number {
    for (let i = from; i < this.source.length; i++) {
      if (this.source[i] === '\\') i++;
      else if (this.source[i] === ']') return i;
      else if (this.source[i] === '[') return -1;
    }
    return -1;
  }

  private step(text: string, from: number, to: number): { step: Step; args: string[] } {
    const [name = '', ...args] = text.split(/\s+/);
    const step = STEPS[name];
    const unescaped = args.map((arg) => arg.replace(/\\(.)/g, '$1'));
    const wrong = step ? step.check(unescaped) : `there is no step "${name}"; use ${Object.keys(STEPS).join(', ')}`;
    if (wrong) this.refuse(`In "> ${text}": ${wrong}.`, from, to);
    return { step: step ?? STEPS['upper']!, args: unescaped };
  }

  /** Notes a fault; the first one counts. */
  private refuse(sentence: string, from: number, to: number): void {
    this.fault ??= { sentence, from, to };
  }
}
