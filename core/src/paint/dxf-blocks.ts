import { apply, determinant, inverse, meanScale, multiply, type Affine } from '../geometry/affine';
import { PICTURE, shapeOf, STROKE, TEXT, type Page, type PlacedBlock } from '../page/page';

/** A block reference and its marks: those from `from` until `to`. */
interface BlockMarks {
  placed: PlacedBlock;
  from: number;
  to: number;
}

/** A block reference that is written as one. */
export interface KeptBlock extends BlockMarks {
  /** The definition that it shows. */
  definition: BlockDefinition;
}

/** A block of a written file: drawn as its first reference is. */
export interface BlockDefinition {
  /** Of the drawing; another definition of the file may have it too. */
  name: string;
  first: BlockMarks;
}

/** Blocks of dimensions: each is used once, and drawing programs regenerate it. */
const DIMENSION_BLOCK = /^\*d/i;
/** A block that comes out in more ways than this has its further variants written as plain entities. */
const MOST_VARIANTS = 40;
/** Directions and sizes of a text that differ by less are the same, page units. */
const SAME_TEXT = 1;

/**
 * The block references of a page that a file can hold as such, by the number of their first mark, and the blocks that
 * they show. A reference shares a block with another where it comes out the same to the rounding of pages; one that is
 * cut, stretched in one direction or shows pictures is left out. Nothing where the page was composed without blocks.
 */
export function blocksOf(
  page: Page,
  order: ArrayLike<number>,
): { kept: Map<number, KeptBlock>; all: BlockDefinition[] } {
  const kept = new Map<number, KeptBlock>();
  const all: BlockDefinition[] = [];
  const { block = new Uint32Array(0), blocks = [] } = page;
  const variants = new Map<string, BlockDefinition[]>();
  for (let from = 0; from < block.length;) {
    let to = from + 1;
    while (to < block.length && block[to] === block[from]) to++;
    const placed = blocks[block[from]! - 1];
    if (placed && isKeepable(page, placed, from, to)) {
      const key = `${placed.source}\n${placed.name.toLowerCase()}`;
      const known = variants.get(key) ?? [];
      variants.set(key, known);
      const use = { placed, from, to };
      let definition = known.find(({ first }) => looksLike(page, order, first, use));
      if (!definition && known.length < MOST_VARIANTS) {
        definition = { name: placed.name, first: use };
        known.push(definition);
        all.push(definition);
      }
      if (definition) kept.set(from, { ...use, definition });
    }
    from = to;
  }
  return { kept, all };
}

function isKeepable({ kind }: Page, { name, map, cut }: PlacedBlock, from: number, to: number): boolean {
  if (cut || DIMENSION_BLOCK.test(name) || !isSimilarity(map)) return false;
  for (let mark = from; mark < to; mark++) if (kind[mark] === PICTURE) return false;
  return true;
}

/** True for a map that turns, mirrors and scales alike in all directions. */
function isSimilarity(map: Affine): boolean {
  const { a, b, c, d } = map;
  const mirrored = Math.sign(determinant(map));
  const off = Math.hypot(a - mirrored * d, b + mirrored * c);
  return mirrored !== 0 && off < 1e-6 * meanScale(map);
}

/** True where one reference of a block comes out as another does, moved to its place. */
function looksLike(page: Page, order: ArrayLike<number>, one: BlockMarks, other: BlockMarks): boolean {
  if (one.to - one.from !== other.to - other.from) return false;
  const map = multiply(one.placed.map, inverse(other.placed.map));
  const tolerance = 1 + meanScale(map);
  const resized = Math.abs(meanScale(map) - 1) > 1e-6;
  for (let i = 0; i < one.to - one.from; i++) {
    const [a, b] = [one.from + i, other.from + i];
    if (page.kind[a] !== page.kind[b] || page.pen[a] !== page.pen[b] || page.layer[a] !== page.layer[b]) return false;
    if (resized && page.kind[a] === STROKE && !keepsItsWidth(page, a)) return false;
    const same =
      page.kind[a] === TEXT ? sameText(page, order, a, b, map, tolerance) : samePath(page, a, b, map, tolerance);
    if (!same) return false;
  }
  return true;
}

/** True for a line that has a weight and no width of its own, which would grow with its block. */
function keepsItsWidth({ pens, pen }: Page, mark: number): boolean {
  const drawn = pens[pen[mark]!]!;
  return drawn.round && shapeOf(drawn).cap === 'round';
}

function samePath(page: Page, a: number, b: number, map: Affine, tolerance: number): boolean {
  const { verbs, coords, verbStart, coordStart } = page;
  const [verbA, verbB, at, from] = [verbStart[a]!, verbStart[b]!, coordStart[a]!, coordStart[b]!];
  const count = verbStart[a + 1]! - verbA;
  if (verbStart[b + 1]! - verbB !== count) return false;
  for (let i = 0; i < count; i++) if (verbs[verbA + i] !== verbs[verbB + i]) return false;
  for (let i = 0; from + i < coordStart[b + 1]!; i += 2) {
    const [x, y] = apply(map, coords[from + i]!, coords[from + i + 1]!);
    if (!(Math.hypot(x - coords[at + i]!, y - coords[at + i + 1]!) <= tolerance)) return false;
  }
  return true;
}

function sameText(
  { texts }: Page,
  order: ArrayLike<number>,
  a: number,
  b: number,
  map: Affine,
  tolerance: number,
): boolean {
  const [one, other] = [texts[order[a]!]!, texts[order[b]!]!];
  if (one.text !== other.text || one.font !== other.font || one.unseen !== other.unseen) return false;
  const placed = multiply(map, { ...other, e: other.x, f: other.y });
  const wanted = { ...one, e: one.x, f: one.y };
  const distance = (along: number, up: number, otherAlong: number, otherUp: number): number => {
    const [[x, y], [wantedX, wantedY]] = [apply(placed, otherAlong, otherUp), apply(wanted, along, up)];
    return Math.hypot(x - wantedX, y - wantedY);
  };
  if (!(distance(0, 0, 0, 0) <= tolerance)) return false;
  return distance(one.advance, one.size, other.advance, other.size) <= SAME_TEXT + tolerance;
}
