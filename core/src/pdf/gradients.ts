import { isSeeThrough, type Gradient, type GradientStop } from '../drawing/gradient';
import { multiply, scaling, type Affine } from '../geometry/affine';
import { UNMASKED, type NamedGradient } from './page-content';
import type { ObjectWriter } from './file-writer';
import { points } from './syntax';

const ASCII = new TextEncoder();

/** Writes gradients into a file, each once. */
export class GradientTable {
  private readonly known = new Map<string, number>();

  constructor(private readonly file: ObjectWriter) {}

  /** The pattern (ISO 32000-2, 8.7.4) of a gradient in units of which `pointsPerUnit` go into one of user space. */
  pattern(gradient: Gradient, pointsPerUnit: number): number {
    const matrix = matrixOf(multiply(scaling(pointsPerUnit), gradient.map));
    return this.once(
      `<< /Type /Pattern /PatternType 2 /Matrix [${matrix}] /Shading ${shading(gradient, coloursOf(gradient))} >>`,
    );
  }

  /** The state that lets what follows fade as a gradient does (11.6.5.2), on a page of so many units. */
  mask(gradient: Gradient, width: number, height: number): number {
    const opacities = { space: '/DeviceGray', parts: ({ opacity }: GradientStop) => [opacity] };
    const form =
      `/Type /XObject /Subtype /Form /BBox [0 0 ${Math.ceil(width)} ${Math.ceil(height)}]` +
      ` /Group << /S /Transparency /CS /DeviceGray >>` +
      ` /Resources << /Shading << /S ${shading(gradient, opacities)} >> >>`;
    const content = `${matrixOf(gradient.map)} cm /S sh\n`;
    const key = `${form}\n${content}`;
    let object = this.known.get(key);
    if (object === undefined) this.known.set(key, (object = this.file.stream(form, ASCII.encode(content), false)));
    return this.once(`<< /Type /ExtGState /SMask << /Type /Mask /S /Luminosity /G ${object} 0 R >> >>`);
  }

  /** The state in which nothing fades. */
  unmasked(): number {
    return this.once('<< /Type /ExtGState /SMask /None >>');
  }

  private once(body: string): number {
    let object = this.known.get(body);
    if (object === undefined) this.known.set(body, (object = this.file.object(body)));
    return object;
  }
}

/** Entries of a page's patterns and states for the gradients of its content. */
export function gradientEntries(
  table: GradientTable,
  gradients: readonly NamedGradient[],
  pointsPerUnit: number,
  [width, height]: readonly [number, number],
): { patterns: string[]; states: string[] } {
  const patterns = gradients.map(([index, gradient]) => `/S${index} ${table.pattern(gradient, pointsPerUnit)} 0 R`);
  const fading = gradients.filter(([, gradient]) => isSeeThrough(gradient));
  const states = fading.map(([index, gradient]) => `/M${index} ${table.mask(gradient, width, height)} 0 R`);
  if (states.length > 0) states.push(`/${UNMASKED} ${table.unmasked()} 0 R`);
  return { patterns, states };
}

interface Colours {
  space: string;
  /** 0…1 each. */
  parts: (stop: GradientStop) => number[];
}

function coloursOf({ stops }: Gradient): Colours {
  const parts = ({ colour }: GradientStop): number[] => [16, 8, 0].map((shift) => ((colour >> shift) & 0xff) / 255);
  const grey = stops.every((stop) => new Set(parts(stop)).size === 1);
  return grey ? { space: '/DeviceGray', parts: (stop) => parts(stop).slice(0, 1) } : { space: '/DeviceRGB', parts };
}

function shading({ from, stops }: Gradient, { space, parts }: Colours): string {
  const coordinates = from ? [from.x, from.y, from.radius, 0, 0, 1].map(points).join(' ') : '0 0 1 0';
  const kind = `/ShadingType ${from ? 3 : 2} /ColorSpace ${space} /Coords [${coordinates}]`;
  return `<< ${kind} /Extend [true true] /Function ${colourFunction(stops, parts)} >>`;
}

/** The colours of a gradient as functions from stop to stop (7.10.3 and 7.10.4). */
function colourFunction(stops: readonly GradientStop[], parts: Colours['parts']): string {
  const all = [...stops];
  if (all[0]!.at > 0) all.unshift({ ...all[0]!, at: 0 });
  if (all.at(-1)!.at < 1) all.push({ ...all.at(-1)!, at: 1 });
  const values = (stop: GradientStop): string => `[${parts(stop).map(points).join(' ')}]`;
  const pieces: { until: number; body: string }[] = [];
  all.forEach((stop, i) => {
    const before = all[i - 1];
    // Stops at one place are a sudden change: there is nothing between them.
    if (!before || stop.at <= before.at) return;
    const body = `<< /FunctionType 2 /Domain [0 1] /C0 ${values(before)} /C1 ${values(stop)} /N 1 >>`;
    pieces.push({ until: stop.at, body });
  });
  if (pieces.length === 1) return pieces[0]!.body;
  const bounds = pieces.slice(0, -1).map(({ until }) => points(until));
  const encode = pieces.map(() => '0 1').join(' ');
  const bodies = pieces.map(({ body }) => body).join(' ');
  return `<< /FunctionType 3 /Domain [0 1] /Functions [${bodies}] /Bounds [${bounds.join(' ')}] /Encode [${encode}] >>`;
}

function matrixOf({ a, b, c, d, e, f }: Affine): string {
  return [a, b, c, d, e, f].map(points).join(' ');
}
