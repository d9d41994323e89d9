import { apply, rotationAbout } from '../geometry/affine';
import type { Drawing } from '../drawing/model';
import type { FoundFrame } from './frames';
import { walk } from './walk';

/** A text of a drawing's model by its anchor. */
interface Text {
  text: string;
  x: number;
  y: number;
  height: number;
}

/** A text inside a frame: its position from the frame's lower right corner, divided by the frame's width. */
interface Inside {
  text: string;
  u: number;
  v: number;
  height: number;
}

/** Texts of different frames count as being at the same place within this part of the width. */
const SAME_PLACE = 0.02;
/** Looked at in the first frame at most, those nearest to its lower right corner first, where title blocks are. */
const MAX_PLACES = 300;
/** What a sheet number looks like (common practice): few characters, a digit among them. */
const NUMBER = /^(?=.*\d)(\p{L}{1,4} )?[\p{L}\d][\p{L}\d.\-_/]{0,39}$/u;

/**
 * The number of each frame: a text that is at the same place in all of them, differs from one to the next, and looks
 * like a number; of several such places the one with the largest letters. Undefined where there is none.
 */
export function frameNumbers(drawing: Drawing, frames: readonly FoundFrame[]): string[] | undefined {
  const texts = textsOf(drawing);
  const inside = frames.map((frame) => textsInside(frame, texts));
  const [first, ...others] = inside;
  if (!first) return undefined;
  let best: { numbers: string[]; height: number } | undefined;
  for (const place of first.slice(0, MAX_PLACES)) {
    if (best && place.height <= best.height) continue;
    const found = others.map((other) => other.find(({ u, v }) => Math.hypot(u - place.u, v - place.v) <= SAME_PLACE));
    const numbers = [place.text, ...found.map((text) => text?.text ?? '')];
    const distinct = new Set(numbers.map((number) => number.toLowerCase())).size === frames.length;
    if (distinct && numbers.every((number) => NUMBER.test(number))) best = { numbers, height: place.height };
  }
  return best?.numbers;
}

function textsOf(drawing: Drawing): Text[] {
  const texts: Text[] = [];
  walk(drawing, drawing.spaces[0]!.entities, {
    entity: (entity, _looks, map) => {
      if (entity.kind !== 'text') return;
      const text = entity.lines.join(' ').trim();
      const [x, y] = apply(map, entity.x, entity.y);
      if (text) texts.push({ text, x, y, height: entity.height * Math.hypot(map.c, map.d) });
    },
    stopped: () => undefined,
  });
  return texts;
}

/** Texts whose anchor lies in a frame, the nearest to its lower right corner first. */
function textsInside({ window, rotation: degrees = 0 }: FoundFrame, texts: readonly Text[]): Inside[] {
  const [xmin, ymin, xmax, ymax] = window;
  const upright = rotationAbout((degrees * Math.PI) / 180, (xmin + xmax) / 2, (ymin + ymax) / 2);
  return texts
    .flatMap(({ text, x, y, height }) => {
      const [tx, ty] = apply(upright, x, y);
      if (tx < xmin || tx > xmax || ty < ymin || ty > ymax) return [];
      return [{ text, u: (xmax - tx) / (xmax - xmin), v: (ty - ymin) / (xmax - xmin), height }];
    })
    .sort((a, b) => Math.hypot(a.u, a.v) - Math.hypot(b.u, b.v));
}
