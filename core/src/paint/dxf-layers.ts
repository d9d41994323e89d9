import { colourFromIndex } from '../drawing/colours';
import { STROKE, UNITS_PER_MM, type Page, type Pen } from '../page/page';
import { cssColour } from './canvas-shapes';
import type { Groups, WrittenLayer } from './dxf-file';
import { legal } from './dxf-names';

/** Line weights that the format can say, 1/100 mm (published DXF reference, group 370). */
const WEIGHTS = [0, 5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100, 106, 120, 140, 158, 200, 211];
const PALETTE = Array.from({ length: 255 }, (_, i) => colourFromIndex(i + 1));
const FOREGROUND = 7;
/** Transparency is a byte with this above it. */
const CLEAR = 0x02000000;
/** The looks of a pen; `plain` for releases that have neither true colours nor transparency. */
export function looksOf({ colour, width, opacity }: Pen, plain: boolean): Groups {
  // Black is the foreground: it shows on dark screens too, and prints black.
  const exact = plain ? [] : [420, colour];
  const colours = colour === 0 ? [62, FOREGROUND] : [62, nearestIndex(colour), ...exact];
  return [...colours, 370, nearestWeight(width), ...clearness({ opacity }, plain)];
}

/** The group of a pen's opacity; none where it is opaque. */
export function clearness({ opacity }: Pick<Pen, 'opacity'>, plain: boolean): Groups {
  return opacity < 100 && !plain ? [440, CLEAR + Math.round((opacity / 100) * 255)] : [];
}

function nearestWeight(width: number): number {
  return WEIGHTS.reduce((best, weight) => (Math.abs(weight - width) < Math.abs(best - width) ? weight : best));
}

/** For readers that know indices only. */
function nearestIndex(colour: number): number {
  const parts = (rgb: number): number[] => [rgb >> 16, (rgb >> 8) & 255, rgb & 255];
  const wanted = parts(colour);
  const far = (rgb: number): number => parts(rgb).reduce((sum, part, i) => sum + (part - wanted[i]!) ** 2, 0);
  let best = 0;
  PALETTE.forEach((rgb, i) => {
    if (rgb >= 0 && (PALETTE[best]! < 0 || far(rgb) < far(PALETTE[best]!))) best = i;
  });
  return best + 1;
}

/** The layers of a file, and that of each mark. */
export interface FileLayers {
  all: WrittenLayer[];
  of(mark: number): string;
}

/** Layers by drawing and name; those of several views under one name. */
export function drawnLayers({ layers, layer }: Page): FileLayers {
  const names = layers.map(({ source, name }) =>
    legal(source ? `${source.replace(/\.\w{1,5}$/, '')} - ${name}` : name),
  );
  const offOf = (name: string): boolean => layers.every(({ off }, i) => names[i] !== name || off);
  const all = ['0', ...new Set(names)].map((name) => ({ name, off: name !== '0' && offOf(name) }));
  return { all, of: (mark) => names[layer[mark]!]! };
}

/** A layer for each weight and colour of lines, and for each colour of areas and texts. What is on layers that are off is not seen. */
export function penLayers({ pens, pen, kind, layer, layers }: Page, plain: boolean): FileLayers {
  const colour = (rgb: number): string => (rgb === 0 ? '' : ` ${cssColour(rgb).slice(1)}`);
  const nameOf = (mark: number): string => {
    const { width, round, colour: rgb } = pens[pen[mark]!]!;
    const lines = round ? `Lines ${(width / UNITS_PER_MM).toFixed(2)}` : 'Wide lines';
    const drawn = kind[mark] === STROKE ? lines : 'Areas and texts';
    return `${drawn}${colour(rgb)}${layers[layer[mark]!]!.off ? ' off' : ''}`;
  };
  const all = new Map<string, WrittenLayer>([['0', { name: '0', off: false }]]);
  const names = Array.from(kind, (_, mark) => {
    const name = nameOf(mark);
    if (!all.has(name)) {
      const looks = looksOf({ ...pens[pen[mark]!]!, opacity: 100 }, plain);
      all.set(name, { name, off: layers[layer[mark]!]!.off === true, looks });
    }
    return name;
  });
  return { all: [...all.values()], of: (mark) => names[mark]! };
}
