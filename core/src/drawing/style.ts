/** A colour as 0xRRGGBB, or one of the three below. */
export type Colour = number;
export const COLOUR_BY_LAYER = -1;
export const COLOUR_BY_BLOCK = -2;
/** Black on white paper, white on black (DXF colour 7). */
export const COLOUR_FOREGROUND = -3;

/** A line weight in 1/100 mm, or one of the three below (values of the DXF format). */
export type Weight = number;
export const WEIGHT_BY_LAYER = -1;
export const WEIGHT_BY_BLOCK = -2;
export const WEIGHT_DEFAULT = -3;

/** An index into `Drawing.lineTypes`, or one of the two below. */
export type LineTypeRef = number;
export const LINE_TYPE_BY_LAYER = -1;
export const LINE_TYPE_BY_BLOCK = -2;

/** The opacity of the block reference around. */
export const OPACITY_BY_BLOCK = -2;

/** Properties that every entity has, as the file states them; see `resolve.ts` for what they come to. */
export interface Style {
  /** Index into `Drawing.layers`. */
  layer: number;
  colour: Colour;
  weight: Weight;
  lineType: LineTypeRef;
  lineTypeScale: number;
  /** Per cent, or the one above; absent: that of the layer. */
  opacity?: number;
}

/** What every entity has. */
export interface EntityBase {
  style: Style;
  /** As the file writes it; empty when it has none. */
  handle: string;
}
