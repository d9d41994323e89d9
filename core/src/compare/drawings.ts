import { emptyBox, isEmpty, union, type Box } from '../geometry/box';
import type { Drawing, Entity, Layer, PictureSource } from '../drawing/model';
import { visibleExtents } from '../sheet/extents';
import type { FontSet } from '../text/layout';

/** What became of a layer between two versions of a drawing; counts are of entities lying on it directly. */
export interface LayerChange {
  name: string;
  state: 'added' | 'removed' | 'changed';
  added: number;
  removed: number;
  /** True where its colour, line or visibility differs. */
  looks: boolean;
}

const UNCHANGED: Omit<LayerChange, 'name'> = { state: 'changed', added: 0, removed: 0, looks: false };

/** How two versions of a drawing differ. An entity that changed counts as one removed and one added. */
export interface DrawingChanges {
  added: number;
  removed: number;
  kept: number;
  /** Those that changed, by name. */
  layers: LayerChange[];
  /** Of the model, in drawing units; null where nothing is visible. */
  extentsBefore: [number, number, number, number] | null;
  extentsAfter: [number, number, number, number] | null;
  /** Layouts that came and went. */
  layoutsAdded: string[];
  layoutsRemoved: string[];
}

/** Entities of the model by what became of them. */
export interface ChangedEntities {
  kept: Entity[];
  removed: Entity[];
  added: Entity[];
}

/** Compares two versions of a drawing by content: handles and order do not count, blocks count by what is in them. */
export function compareDrawings(
  before: Drawing,
  after: Drawing,
  fonts: FontSet,
): { changes: DrawingChanges; model: ChangedEntities } {
  const [keyBefore, keyAfter] = [entityKeys(before), entityKeys(after)];
  const layers = new Map<string, LayerChange>();
  const count = (drawing: Drawing, entity: Entity, what: 'added' | 'removed'): void => {
    const name = drawing.layers[entity.style.layer]?.name ?? '0';
    const change = layers.get(name.toLowerCase()) ?? { ...UNCHANGED, name };
    change[what]++;
    layers.set(name.toLowerCase(), change);
  };
  let model: ChangedEntities = { kept: [], removed: [], added: [] };
  const totals = { added: 0, removed: 0, kept: 0 };
  for (const [i, [one, other]] of pairedSpaces(before, after).entries()) {
    const found = split(one, other, keyBefore, keyAfter);
    if (i === 0) model = found;
    for (const entity of found.removed) count(before, entity, 'removed');
    for (const entity of found.added) count(after, entity, 'added');
    totals.added += found.added.length;
    totals.removed += found.removed.length;
    totals.kept += found.kept.length;
  }
  markLayers(before, after, layers);
  const [layoutsBefore, layoutsAfter] = [layoutNames(before), layoutNames(after)];
  const changes: DrawingChanges = {
    ...totals,
    layers: [...layers.values()].sort((a, b) => (a.name < b.name ? -1 : 1)),
    extentsBefore: corners(visibleExtents(before, before.spaces[0]!.entities, fonts)),
    extentsAfter: corners(visibleExtents(after, after.spaces[0]!.entities, fonts)),
    layoutsAdded: layoutsAfter.filter((name) => !layoutsBefore.includes(name)),
    layoutsRemoved: layoutsBefore.filter((name) => !layoutsAfter.includes(name)),
  };
  return { changes, model };
}

/** The model with the model, then each layout with that of its name. */
function pairedSpaces(before: Drawing, after: Drawing): [readonly Entity[], readonly Entity[]][] {
  const pairs: [readonly Entity[], readonly Entity[]][] = [[before.spaces[0]!.entities, after.spaces[0]!.entities]];
  // Formats made of pages show the first page as their model too: it is not counted twice.
  const shared = (drawing: Drawing, entities: readonly Entity[]): boolean => entities === drawing.spaces[0]!.entities;
  const names = new Set([...layoutNames(before), ...layoutNames(after)]);
  for (const name of names) {
    const of = (drawing: Drawing): readonly Entity[] => {
      const entities = drawing.spaces.find((space) => space.kind === 'layout' && space.name === name)?.entities ?? [];
      return shared(drawing, entities) ? [] : entities;
    };
    pairs.push([of(before), of(after)]);
  }
  return pairs;
}

function layoutNames(drawing: Drawing): string[] {
  return drawing.spaces.filter(({ kind }) => kind === 'layout').map(({ name }) => name);
}

function split(
  before: readonly Entity[],
  after: readonly Entity[],
  keyBefore: (entity: Entity) => string,
  keyAfter: (entity: Entity) => string,
): ChangedEntities {
  const waiting = new Map<string, Entity[]>();
  for (const entity of before) {
    const key = keyBefore(entity);
    const same = waiting.get(key);
    if (same) same.push(entity);
    else waiting.set(key, [entity]);
  }
  const found: ChangedEntities = { kept: [], removed: [], added: [] };
  for (const entity of after) {
    const known = waiting.get(keyAfter(entity))?.pop();
    (known ? found.kept : found.added).push(entity);
  }
  for (const rest of waiting.values()) found.removed.push(...rest);
  return found;
}

/** Adds the layers that came, went, or look otherwise by themselves. */
function markLayers(before: Drawing, after: Drawing, layers: Map<string, LayerChange>): void {
  const byName = (drawing: Drawing): Map<string, Layer> =>
    new Map(drawing.layers.map((layer) => [layer.name.toLowerCase(), layer]));
  const [one, other] = [byName(before), byName(after)];
  const mark = (name: string, change: Partial<LayerChange>): void => {
    const known = layers.get(name.toLowerCase()) ?? UNCHANGED;
    layers.set(name.toLowerCase(), { ...known, name, ...change });
  };
  for (const [key, layer] of other) {
    const old = one.get(key);
    if (!old) mark(layer.name, { state: 'added' });
    else if (looksOf(before, old) !== looksOf(after, layer)) mark(layer.name, { looks: true });
  }
  for (const [key, layer] of one) if (!other.has(key)) mark(layer.name, { state: 'removed' });
}

/** What by-layer properties come to, in one text. */
function looksOf(drawing: Drawing, layer: Layer): string {
  const { colour, weight, lineType, off, frozen, plots, opacity = 100 } = layer;
  const dashes = drawing.lineTypes[lineType]?.dashes.join(' ') ?? '';
  return [colour, weight, dashes, off, frozen, plots, opacity].join('|');
}

/** Makes the key of an entity's content: everything about it but its handle, names in place of numbers. */
function entityKeys(drawing: Drawing): (entity: Entity) => string {
  const blocks = new Map<string, string>();
  const blockKey = (name: string): string => {
    const known = blocks.get(name);
    if (known !== undefined) return known;
    // Set while the block is being compared, so that a block that contains itself ends.
    blocks.set(name, `open ${name}`);
    const block = drawing.blocks.get(name);
    const clip = block?.clip?.map((loop) => loop.join()).join(';') ?? '';
    const content = block ? [block.baseX, block.baseY, clip, ...block.entities.map(key)].join('\n') : 'missing';
    const short = digest(content);
    blocks.set(name, short);
    return short;
  };
  const named: Readonly<Record<string, (value: number | string) => string>> = {
    layer: (value) => drawing.layers[value as number]?.name.toLowerCase() ?? '',
    lineType: (value) =>
      Number(value) < 0 ? String(value) : (drawing.lineTypes[value as number]?.dashes.join() ?? ''),
    textStyle: (value) => drawing.textStyles[value as number]?.font ?? '',
    // Programs number their own blocks (of dimensions, say) anew each time: only what is in them counts.
    block: (value) => `${String(value).startsWith('*') ? '*' : value} ${blockKey(value as string)}`,
    picture: (value) => pictureKey(drawing.pictures[value as number]),
  };
  const text = (name: string, value: unknown): string => {
    if (name in named) return named[name]!(value as number | string);
    if (value instanceof Float64Array || value instanceof Uint8Array) return value.join();
    if (Array.isArray(value)) return value.map((item) => text('', item)).join(';');
    if (typeof value === 'object' && value !== null) return key(value as Entity);
    return String(value);
  };
  function key(entity: Entity): string {
    let whole = '';
    for (const [name, value] of Object.entries(entity)) if (name !== 'handle') whole += `${text(name, value)}|`;
    return whole;
  }
  return key;
}

/** A picture by the file it lies in, else by its bytes. */
function pictureKey(picture: PictureSource | undefined): string {
  if (!picture) return 'missing';
  const { linked, bytes, kind, page } = picture;
  return linked ?? `${kind} ${page} ${digest(new TextDecoder('latin1').decode(bytes))}`;
}

/** A short stand-in for a long text (FNV-1a, twice with different beginnings). */
function digest(text: string): string {
  let [a, b] = [0x811c9dc5, 0x01000193];
  for (let i = 0; i < text.length; i++) {
    a = Math.imul(a ^ text.charCodeAt(i), 0x01000193);
    b = Math.imul(b ^ text.charCodeAt(i), 0x85ebca6b);
  }
  return `${(a >>> 0).toString(36)}${(b >>> 0).toString(36)}${text.length}`;
}

function corners(box: Box | undefined): [number, number, number, number] | null {
  return box ? [box.xmin, box.ymin, box.xmax, box.ymax] : null;
}

/** The box around both extents of a comparison; undefined where nothing is visible in either. */
export function extentsOfBoth({ extentsBefore, extentsAfter }: DrawingChanges): Box | undefined {
  const box = emptyBox();
  for (const extents of [extentsBefore, extentsAfter]) {
    if (extents) union(box, { xmin: extents[0], ymin: extents[1], xmax: extents[2], ymax: extents[3] });
  }
  return isEmpty(box) ? undefined : box;
}
