import type { Affine } from '../geometry/affine';
import type { Box } from '../geometry/box';
import type { Gradient } from './gradient';
import type { LengthUnit } from '../measure/units';
import type { PaperSize } from '../paper/sizes';
import type { LineShape } from '../geometry/line-shape';
import type { Colour, EntityBase, Weight } from './style';
import type { TextEntity } from './text';

export * from './style';
export type * from './text';

export interface Layer {
  name: string;
  colour: Colour;
  weight: Weight;
  /** Index into `Drawing.lineTypes`. */
  lineType: number;
  off: boolean;
  frozen: boolean;
  plots: boolean;
  /** Per cent; absent: 100. */
  opacity?: number;
}

/** Dashes of a line type in drawing units: positive a dash, negative a gap, zero a dot. Empty: continuous. */
export interface LineType {
  name: string;
  dashes: number[];
}

export interface TextStyle {
  name: string;
  /** The font file or family that the drawing asks for. */
  font: string;
  widthFactor: number;
}

export interface LineEntity extends EntityBase {
  kind: 'line';
  x0: number;
  y0: number;
  x1: number;
  y1: number;
  /** A line that has no end in truth: it does not count for the extents. */
  endless?: true;
}

/** Vertices are five numbers each: x, y, bulge, start width, end width (drawing units). */
export interface PolylineEntity extends EntityBase {
  kind: 'polyline';
  vertices: Float64Array;
  closed: boolean;
  /** Its dashes run on round its corners; else they begin anew at each. */
  dashesRunOn?: true;
}

export const POLYLINE_STRIDE = 5;

/** A circle, or an arc counter-clockwise from `start` to `end` (radians). */
export interface ArcEntity extends EntityBase {
  kind: 'arc';
  cx: number;
  cy: number;
  radius: number;
  start: number;
  end: number;
  full: boolean;
}

/** The arc of an ellipse: centre and two half axes, over the parameter from `start` up to `end` (radians). */
export interface EllipseEntity extends EntityBase {
  kind: 'ellipse';
  cx: number;
  cy: number;
  ux: number;
  uy: number;
  vx: number;
  vy: number;
  start: number;
  end: number;
}

/** Any other curve, as straight pieces and cubic Béziers (verbs of `geometry/path.ts`). */
export interface PathEntity extends EntityBase {
  kind: 'path';
  verbs: Uint8Array;
  coords: Float64Array;
  /** By which rule it is filled; stroked where absent. */
  filled?: 'nonzero' | 'evenodd';
  /** Width of the stroke, drawing units, where it has one of its own. */
  width?: number;
  /** How its stroke ends and turns, where it says. */
  shape?: LineShape;
  /** What it is painted with, in drawing units; the colour of its style is for what knows single colours only. */
  gradient?: Gradient;
}

/** A marked point; its style is set for the whole drawing. */
export interface PointEntity extends EntityBase {
  kind: 'point';
  x: number;
  y: number;
}

/** An entity drawn in a plane of its own, mapped to the plan. */
export interface TiltedEntity extends EntityBase {
  kind: 'tilted';
  map: Affine;
  entity: PlainEntity;
}

export interface InsertEntity extends EntityBase {
  kind: 'insert';
  /** Name of the block in lower case. */
  block: string;
  x: number;
  y: number;
  scaleX: number;
  scaleY: number;
  rotation: number;
  columns: number;
  rows: number;
  columnSpacing: number;
  rowSpacing: number;
  attributes: TextEntity[];
}

/** A block reference at the origin, as large as its block, once. */
export const PLAIN_INSERT = {
  kind: 'insert',
  x: 0,
  y: 0,
  scaleX: 1,
  scaleY: 1,
  rotation: 0,
  columns: 1,
  rows: 1,
  columnSpacing: 0,
  rowSpacing: 0,
  attributes: [] as TextEntity[],
} as const;

/** A filled area; each loop is a closed polyline of x, y, bulge. Filled by the even-odd rule. */
export interface FillEntity extends EntityBase {
  kind: 'fill';
  loops: Float64Array[];
  /** Painted in the colour of the paper, to cover what lies below. */
  mask?: true;
  /** True for the arrowhead of a leader or dimension. */
  arrow?: true;
  /** As in a path. */
  gradient?: Gradient;
}

export const LOOP_STRIDE = 3;

/** Parallel lines of a hatch pattern, each `dx, dy` from the one before; dashes as in a line type. Drawing units. */
export interface HatchFamily {
  /** Direction of the lines, radians. */
  angle: number;
  x: number;
  y: number;
  dx: number;
  dy: number;
  dashes: number[];
}

/** An area filled with the lines of a pattern; loops as in a fill. */
export interface HatchEntity extends EntityBase {
  kind: 'hatch';
  loops: Float64Array[];
  families: HatchFamily[];
}

/** A picture, or a page of a PDF, placed whole. */
export interface PictureEntity extends EntityBase {
  kind: 'picture';
  /** Index into `Drawing.pictures`. */
  picture: number;
  /** Maps the unit square, lower left corner of the picture at the origin, to drawing units. */
  map: Affine;
}

/** What a picture entity shows. */
export interface PictureSource {
  kind: 'jpeg' | 'png' | 'tiff' | 'pdf' | 'linked';
  /** The whole file of a picture or PDF; empty for one that lies in a file of its own. */
  bytes: Uint8Array;
  /** Of a TIFF or PDF, the page, counted from 1. */
  page: number;
  /** Of `linked`, the name of the file. */
  linked?: string;
  /** Of a page of a PDF in another file: until that is there, its size is unknown and taken as one inch square. */
  underlay?: true;
  /** The drawing it came from and its index there, where that is another one. */
  key?: string;
  index?: number;
}

/** Entities that are drawn as they are. */
export type ShapeEntity =
  | LineEntity
  | PolylineEntity
  | ArcEntity
  | EllipseEntity
  | PathEntity
  | PointEntity
  | TextEntity
  | FillEntity
  | HatchEntity
  | PictureEntity;

export type PlainEntity = ShapeEntity | InsertEntity;

export type Entity = PlainEntity | TiltedEntity | ViewportEntity;

/** A window in a layout through which the model is seen. Lengths in the layout's units, `scale` of them to a model unit. */
export interface ViewportEntity extends EntityBase {
  kind: 'viewport';
  cx: number;
  cy: number;
  width: number;
  height: number;
  /** Which of the drawing's projections it shows; absent: the model from above. */
  projection?: number;
  /** Middle of the view, in the view's own axes: turned by `twist` about the target. */
  viewX: number;
  viewY: number;
  targetX: number;
  targetY: number;
  /** Radians, counter-clockwise. */
  twist: number;
  scale: number;
  /** Indices of the layers not shown in it. */
  frozen: number[];
  /** Handle of the entity of the layout that is its edge, where that is not its box. */
  outline: string | undefined;
}

/** How a layout lies on its paper. */
export interface PlotSettings {
  /** As it lies, mm. */
  paper: PaperSize;
  /** Where the layout's origin lies, mm from the paper's lower left corner. */
  originX: number;
  originY: number;
  mmPerUnit: number;
  /** What of the layout is plotted, in its units; absent: all of it. */
  clip?: Box;
  /** By how much line weights grow; absent: 1. */
  weightFactor?: number;
  /** True where transparency is not plotted: transparent entities come out solid. */
  opaque?: boolean;
}

export interface Block {
  name: string;
  baseX: number;
  baseY: number;
  entities: Entity[];
  /** Loops of x, y (even-odd, in the block's coordinates) outside of which nothing of it shows. */
  clip?: Float64Array[];
  /**
   * Painted together, then composited with an opacity in per cent. Or `mask`: the first reference in such a block, whose
   * brightness says how much of that block shows.
   */
  group?: { opacity: number } | 'mask';
  /** Name of the file whose model it stands for. */
  external?: string;
  /** The blanks that each reference to it fills in; they are not drawn. */
  attributes?: AttributeDefinition[];
}

/** A blank of a block: its tag, its prompt, and its text until it is filled in. */
export interface AttributeDefinition {
  tag: string;
  prompt: string;
  text: TextEntity;
}

/** A coordinate area inside a drawing: its model, or one of its layouts. */
export interface Space {
  name: string;
  kind: 'model' | 'layout';
  entities: Entity[];
  /** Of a layout, where the file states it. */
  plot?: PlotSettings;
}

/** How points are marked: DXF's `$PDMODE` and `$PDSIZE` (drawing units where positive). */
export interface PointStyle {
  mode: number;
  size: number;
}

/** The content of one file. */
export interface Drawing {
  /** File name, as its layers are grouped by in a PDF. */
  name: string;
  /** The hash of its content (SHA-256), where its host knows it; pictures are fetched by it. */
  key?: string;
  format: string;
  /** Undefined when the file leaves it open: it must then be asked for. */
  unit: LengthUnit | undefined;
  /** Which system it is set up for, where it says. */
  metric?: boolean;
  lineTypeScale: number;
  /** True where dashes seen through viewports are measured on the paper (DXF's `$PSLTSCALE`). */
  dashesOnPaper: boolean;
  pointStyle: PointStyle;
  /** Weight of entities that say "default", 1/100 mm. */
  defaultWeight: Weight;
  layers: Layer[];
  lineTypes: LineType[];
  textStyles: TextStyle[];
  /** By name in lower case. */
  blocks: Map<string, Block>;
  spaces: Space[];
  /** The model in parallel projection, as viewports see it from other sides than from above. */
  projections?: Entity[][];
  pictures: PictureSource[];
  /** Names of other files that it refers to and does not hold. */
  references: string[];
}

/** The space of that name; `model` for the model. Undefined when the drawing has no such space. */
export function spaceOf(drawing: Drawing, name: string): Space | undefined {
  const wanted = name.toLowerCase();
  return drawing.spaces.find((space) =>
    wanted === 'model' ? space.kind === 'model' : space.name.toLowerCase() === wanted,
  );
}
