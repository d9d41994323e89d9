import { styledFamily } from '../../text/fonts';
import { colourFromIndex } from '../../drawing/colours';
import type { RichLine, TextSpan } from '../../drawing/model';
import { paragraphOf } from './paragraph';
import { decodeDxfText, decodeUnicode } from './text';

type Look = Omit<TextSpan, 'text' | 'over' | 'under'>;

const RADIANS = Math.PI / 180;

/**
 * The lines of an MTEXT as spans of one look each. `\P \n` break lines, `\N` columns, `\~` is a hard space, `^I` a tab,
 * `\S1/2;` a stack, `{}` keep a look to what is between them; `\f \F` change the font, `\H` the height, `\C \c` the
 * colour, `\W` the width, `\Q` the slant, `\L \O \K` draw lines, `\p` says how paragraphs lie; `\A \T` are left out of
 * account.
 */
export function mtextLines(raw: string, height: number): RichLine[] {
  const text = decodeUnicode(raw);
  const lines: RichLine[] = [{ spans: [] }];
  const looks: Look[] = [{ height: 1 }];
  let run = '';
  const look = (): Look => looks.at(-1)!;
  const flush = (): void => {
    if (run) lines.at(-1)!.spans.push({ ...look(), text: decodeDxfText(run) });
    run = '';
  };
  const change = (by: Partial<Look>): void => {
    flush();
    looks[looks.length - 1] = { ...look(), ...by };
  };
  const breakLine = (columnBreak: boolean): void => {
    flush();
    const { paragraph } = lines.at(-1)!;
    lines.push({ spans: [], ...(paragraph && { paragraph }), ...(columnBreak && { columnBreak }) });
  };
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (c === '{') {
      flush();
      looks.push({ ...look() });
    } else if (c === '}') {
      flush();
      if (looks.length > 1) looks.pop();
    } else if (c === '\n') breakLine(false);
    else if (c === '\r') continue;
    else if (c === '^' && text[i + 1] === 'I') {
      run += '\t';
      i++;
    } else if (c === '^' && (text[i + 1] === 'J' || text[i + 1] === 'M')) {
      // A line feed; a carriage return before it means nothing.
      if (text[++i] === 'J') breakLine(false);
    } else if (c !== '\\') run += c;
    else {
      const code = text[++i];
      if (code === undefined) break;
      if (code === 'P' || code === 'N' || code === 'n') breakLine(code === 'N');
      else if (code === '~') run += '\u00a0';
      else if (code === '\\' || code === '{' || code === '}') run += code;
      else if (code in SWITCHES) change(SWITCHES[code]!);
      else if ('SfFHCcAWQTp'.includes(code)) {
        const end = argumentEnd(text, i);
        const argument = text.slice(i + 1, end);
        if (code === 'S') {
          flush();
          lines.at(-1)!.spans.push({ ...look(), ...stack(argument) });
        } else if (code === 'p') lines.at(-1)!.paragraph = paragraphOf(argument, lines.at(-1)!.paragraph);
        else change(lookOf(code, argument, look(), height));
        i = end;
      } else run += `\\${code}`;
    }
  }
  flush();
  return lines;
}

const SWITCHES: Readonly<Record<string, Partial<Look>>> = {
  L: { underline: true },
  l: { underline: false },
  O: { overline: true },
  o: { overline: false },
  K: { strike: true },
  k: { strike: false },
};

/** A family and its style: `Arial|b1|i0|c0|p34`. */
function fontOf(argument: string): string {
  const [family, ...style] = argument.split('|').map((part) => part.trim());
  return styledFamily(family!, style.includes('b1'), style.includes('i1'));
}

function lookOf(code: string, argument: string, now: Look, height: number): Partial<Look> {
  const number = parseFloat(argument);
  switch (code) {
    case 'f':
    case 'F':
      return { font: fontOf(argument) };
    case 'H':
      // Followed by x it is a multiple of the height so far.
      if (!(number > 0)) return {};
      return { height: /x\s*$/i.test(argument) ? now.height * number : number / (height || 1) };
    case 'C':
      return Number.isInteger(number) && number > 0 && number < 256
        ? { colour: colourFromIndex(number) }
        : { colour: undefined };
    case 'c': {
      if (!Number.isFinite(number)) return {};
      // Blue, green, red from the highest byte.
      const [b, g, r] = [(number >> 16) & 255, (number >> 8) & 255, number & 255];
      return { colour: (r << 16) | (g << 8) | b };
    }
    case 'W':
      return number > 0 ? { widthFactor: /x\s*$/i.test(argument) ? (now.widthFactor ?? 1) * number : number } : {};
    case 'Q':
      return Number.isFinite(number) ? { oblique: number * RADIANS } : {};
    default:
      return {};
  }
}

function stack(argument: string): Pick<TextSpan, 'text' | 'over' | 'under' | 'bar'> {
  const mark = /[/#^]/.exec(argument)?.[0] ?? '/';
  const [over = '', under = ''] = argument.split(mark).map((part) => decodeDxfText(part).trim());
  if (!under) return { text: over };
  if (mark === '#') return { text: `${over}/${under}` };
  return { text: '', over, under, bar: mark === '/' };
}

/** Position of the semicolon that ends the argument of the code at `at`. */
function argumentEnd(text: string, at: number): number {
  const end = text.indexOf(';', at);
  return end < 0 ? text.length : end;
}

/** True where lines look like their text's style throughout, so that plain ones do. */
export function isPlain(lines: readonly RichLine[]): boolean {
  return lines.every(
    ({ spans, paragraph, columnBreak }) => !paragraph && !columnBreak && spans.every((span) => looksPlain(span)),
  );
}

function looksPlain(span: TextSpan): boolean {
  const { text, height, font, colour, underline, overline, strike, widthFactor, oblique, over } = span;
  return (
    height === 1 &&
    font === undefined &&
    colour === undefined &&
    !underline &&
    !overline &&
    !strike &&
    widthFactor === undefined &&
    !oblique &&
    over === undefined &&
    !text.includes('\t')
  );
}

/** The lines as plain text, stacks as `1/2`. */
export function plainLines(lines: readonly RichLine[]): string[] {
  return lines.map(({ spans }) =>
    spans
      .map(({ text, over, under, bar }) =>
        over === undefined ? text.replaceAll('\t', ' ') : `${over}${bar ? '/' : ' '}${under}`,
      )
      .join(''),
  );
}
