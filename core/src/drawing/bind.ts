import { multiply, scaling } from '../geometry/affine';
import { INHERITING_LAYER } from './resolve';
import type { Block, Drawing, Entity, Style, TextEntity } from './model';

/** Finds another drawing of the project by its file name (case-blind); undefined where it is not there. */
export type Finder = (name: string) => Drawing | undefined;

const MM_PER_INCH = 25.4;

/** DXF joins the name of a referred drawing and that of its layer or block so. */
const JOINT = '|';

/**
 * A drawing with what it refers to put in: drawings behind external blocks, and pictures in files of their own. What is
 * not found stays as it is, and so does what leads back to a drawing in `around`, those being put in just now. The
 * drawing given is not changed.
 */
export function withReferences(drawing: Drawing, find: Finder, around: readonly Drawing[] = []): Drawing {
  if (drawing.references.length === 0) return drawing;
  const open = [...around, drawing];
  const bound: Drawing = {
    ...drawing,
    layers: [...drawing.layers],
    lineTypes: [...drawing.lineTypes],
    textStyles: [...drawing.textStyles],
    pictures: drawing.pictures.map((picture) => {
      const [other, index] = [picture.linked === undefined ? undefined : find(picture.linked), picture.page - 1];
      const source = other?.pictures[index];
      return source && other.key !== undefined ? { ...source, key: other.key, index } : picture;
    }),
    ...withUnderlays(drawing, find),
  };
  for (const [key, block] of drawing.blocks) {
    const other = block.external === undefined ? undefined : find(block.external);
    if (!other || open.includes(other)) continue;
    bound.blocks.set(key, bind(bound, block, withReferences(other, find, open)));
  }
  return bound;
}

/** Spaces and blocks with each underlay as large as its page. */
function withUnderlays({ pictures, spaces, blocks }: Drawing, find: Finder): Pick<Drawing, 'spaces' | 'blocks'> {
  const pages = pictures.map(({ underlay, linked, page }) => {
    const paper = underlay && linked !== undefined ? find(linked)?.spaces[page]?.plot?.paper : undefined;
    return paper && scaling(paper.width / MM_PER_INCH, paper.height / MM_PER_INCH);
  });
  if (!pages.some((page) => page)) return { spaces, blocks: new Map(blocks) };
  const sized = <T extends Entity>(entity: T): T => {
    const page = entity.kind === 'picture' && pages[entity.picture];
    return page ? { ...entity, map: multiply(entity.map, page) } : entity;
  };
  return {
    spaces: spaces.map((space) => ({ ...space, entities: space.entities.map(sized) })),
    blocks: new Map([...blocks].map(([key, block]) => [key, { ...block, entities: block.entities.map(sized) }])),
  };
}

/** A block with the model of another drawing in it; what that one's tables hold is added to the host's. */
function bind(host: Drawing, block: Block, other: Drawing): Block {
  const prefix = `${block.name}${JOINT}`;
  const [firstLineType, firstStyle, firstPicture] = [
    host.lineTypes.length,
    host.textStyles.length,
    host.pictures.length,
  ];
  const lineType = (index: number): number => (index < 0 ? index : firstLineType + index);
  const layerAt = new Map(host.layers.map(({ name }, i) => [name.toLowerCase(), i]));
  const layers = other.layers.map((layer) => {
    // Layer 0 stays layer 0: it takes over the layer of the reference.
    const name = layer.name === INHERITING_LAYER ? INHERITING_LAYER : prefix + layer.name;
    // The host may say for itself how a layer of the other is to look.
    const known = layerAt.get(name.toLowerCase());
    return known ?? host.layers.push({ ...layer, name, lineType: lineType(layer.lineType) }) - 1;
  });
  host.lineTypes.push(...other.lineTypes);
  host.textStyles.push(...other.textStyles);
  host.pictures.push(
    ...other.pictures.map((picture, index) =>
      other.key === undefined ? picture : { key: other.key, index, ...picture },
    ),
  );
  const styles = new Map<Style, Style>();
  const style = (own: Style): Style => {
    let changed = styles.get(own);
    if (!changed) {
      changed = { ...own, layer: layers[own.layer] ?? 0, lineType: lineType(own.lineType) };
      styles.set(own, changed);
    }
    return changed;
  };
  const text = (own: TextEntity): TextEntity => ({
    ...own,
    style: style(own.style),
    textStyle: firstStyle + own.textStyle,
  });
  const entity = <T extends Entity>(own: T): T => {
    const changed: Entity = { ...own, style: style(own.style) };
    if (changed.kind === 'text') return text(own as TextEntity) as T;
    if (changed.kind === 'picture') changed.picture += firstPicture;
    if (changed.kind === 'tilted') changed.entity = entity(changed.entity);
    if (changed.kind === 'insert') {
      changed.block = `${prefix}${changed.block}`.toLowerCase();
      changed.attributes = changed.attributes.map(text);
    }
    return changed as T;
  };
  for (const [key, inner] of other.blocks) {
    host.blocks.set(`${prefix}${key}`.toLowerCase(), { ...inner, entities: inner.entities.map(entity) });
  }
  return { ...block, entities: other.spaces[0]!.entities.map(entity) };
}
