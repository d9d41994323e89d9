import {
  COLOUR_BY_BLOCK,
  COLOUR_BY_LAYER,
  COLOUR_FOREGROUND,
  LINE_TYPE_BY_BLOCK,
  LINE_TYPE_BY_LAYER,
  OPACITY_BY_BLOCK,
  WEIGHT_BY_BLOCK,
  WEIGHT_BY_LAYER,
  WEIGHT_DEFAULT,
  type Drawing,
  type Layer,
  type Style,
} from './model';

/** What the properties of an entity come to once layers and enclosing blocks are looked up. */
export interface Resolved {
  /** Index into `Drawing.layers`. */
  layer: number;
  /** 0xRRGGBB, or `COLOUR_FOREGROUND`. */
  colour: number;
  /** 1/100 mm. */
  weight: number;
  /** Index into `Drawing.lineTypes`. */
  lineType: number;
  /** Per cent. */
  opacity: number;
}

/** Name of the layer whose content takes over the properties of the block reference that shows it (DXF format). */
export const INHERITING_LAYER = '0';

/** What BYBLOCK means outside any block: foreground, default weight, continuous. */
export function topLevel(): Resolved {
  return { layer: -1, colour: COLOUR_FOREGROUND, weight: WEIGHT_DEFAULT, lineType: 0, opacity: 100 };
}

/**
 * Resolves by layer, by block and layer 0 through one level of nesting; called once a level, from outside in, it
 * resolves any depth. `outer` is what the enclosing block reference came to; its layer is -1 outside blocks.
 */
export function resolve(drawing: Drawing, style: Style, outer: Resolved): Resolved {
  const inherits = outer.layer >= 0 && drawing.layers[style.layer]?.name === INHERITING_LAYER;
  const layerIndex = inherits ? outer.layer : style.layer;
  const layer = drawing.layers[layerIndex];
  return {
    layer: layerIndex,
    colour: pick(style.colour, COLOUR_BY_LAYER, layer?.colour ?? COLOUR_FOREGROUND, COLOUR_BY_BLOCK, outer.colour),
    weight: defaulted(
      pick(style.weight, WEIGHT_BY_LAYER, layer?.weight ?? WEIGHT_DEFAULT, WEIGHT_BY_BLOCK, outer.weight),
      drawing.defaultWeight,
    ),
    lineType: pick(style.lineType, LINE_TYPE_BY_LAYER, layer?.lineType ?? 0, LINE_TYPE_BY_BLOCK, outer.lineType),
    opacity: opacityOf(style, layer, outer),
  };
}

function pick(value: number, byLayer: number, ofLayer: number, byBlock: number, ofBlock: number): number {
  if (value === byLayer) return ofLayer;
  return value === byBlock ? ofBlock : value;
}

function opacityOf(style: Style, layer: Layer | undefined, outer: Resolved): number {
  if (style.opacity === OPACITY_BY_BLOCK) return outer.opacity;
  return style.opacity ?? layer?.opacity ?? 100;
}

function defaulted(weight: number, standard: number): number {
  return weight < 0 ? standard : weight;
}
