import type { Drawing, Layer, LineType, Style, TextStyle } from '../../drawing/model';
import { COLOUR_FOREGROUND, LINE_TYPE_BY_LAYER, WEIGHT_BY_LAYER, WEIGHT_DEFAULT } from '../../drawing/model';
import type { Box } from '../../geometry/box';
import type { Place } from '../../problem';
import type { DimensionStyle } from './dimension-looks';

/** Name, in lower case, of the layer that never plots (DXF format). */
export const NEVER_PLOTS = 'defpoints';

/** Finds layers, line types and text styles by name (case-blind), making those that a file uses but does not define. */
export class NameTables {
  readonly layers: Layer[] = [];
  readonly lineTypes: LineType[] = [{ name: 'CONTINUOUS', dashes: [] }];
  readonly textStyles: TextStyle[] = [{ name: 'STANDARD', font: '', widthFactor: 1 }];
  private readonly layerAt = new Map<string, number>();
  /** Line types that entities or layers ask for, and those with more along them than dashes, with their place. */
  readonly usedLineTypes = new Set<number>();
  readonly withFigures = new Map<number, Place>();
  private readonly dimensionStyles = new Map<string, DimensionStyle>();
  private readonly views = new Map<string, Box>();
  private readonly blockHandles = new Map<string, string>();
  private readonly layerHandles = new Map<string, number>();
  /** Styles met lately, by a hash of what they say. */
  private readonly styles: (Style | undefined)[] = new Array<undefined>(1024).fill(undefined);
  /** By layer, then by the index of the colour. */
  private readonly plainStyles: Map<number, Style>[] = [];
  private readonly lineTypeAt = new Map<string, number>([['continuous', 0]]);
  private readonly textStyleAt = new Map<string, number>([['standard', 0]]);

  constructor(readonly standardDimensions: DimensionStyle) {}

  layer(name: string): number {
    return (
      this.layerAt.get(name.toLowerCase()) ??
      this.setLayer({
        name: name || '0',
        colour: COLOUR_FOREGROUND,
        weight: WEIGHT_DEFAULT,
        lineType: 0,
        off: false,
        frozen: false,
        plots: true,
      })
    );
  }

  setLayer(layer: Layer): number {
    return put(this.layers, this.layerAt, layer);
  }

  /** A style of these properties; entities that share them mostly share one object. */
  style(
    layer: number,
    colour: number,
    weight: number,
    lineType: number,
    lineTypeScale: number,
    opacity?: number,
  ): Style {
    const hash = Math.imul(Math.imul(layer + 1, 0x9e3779b1) ^ colour, 0x85ebca6b) ^ Math.imul(weight + 4, 0xc2b2ae35);
    const slot = (hash ^ (hash >>> 15)) & (this.styles.length - 1);
    const kept = this.styles[slot];
    if (
      kept?.layer === layer &&
      kept.colour === colour &&
      kept.weight === weight &&
      kept.lineType === lineType &&
      kept.lineTypeScale === lineTypeScale &&
      kept.opacity === opacity
    ) {
      return kept;
    }
    const style: Style = { layer, colour, weight, lineType, lineTypeScale };
    if (opacity !== undefined) style.opacity = opacity;
    return (this.styles[slot] = style);
  }

  /** The style of entities that say a layer and the index of a colour only. */
  plainStyle(layer: number, index: number, colourOf: (index: number) => number): Style {
    const ofLayer = (this.plainStyles[layer] ??= new Map<number, Style>());
    let style = ofLayer.get(index);
    if (!style) {
      style = this.style(layer, colourOf(index), WEIGHT_BY_LAYER, LINE_TYPE_BY_LAYER, 1);
      ofLayer.set(index, style);
    }
    return style;
  }

  /** Index of a line type; continuous for a name that the file does not define. */
  lineType(name: string): number {
    const index = this.lineTypeAt.get(name.toLowerCase()) ?? 0;
    this.usedLineTypes.add(index);
    return index;
  }

  setLineType(lineType: LineType): number {
    return put(this.lineTypes, this.lineTypeAt, lineType);
  }

  /** Index of a text style; the standard one for a name that the file does not define. */
  textStyle(name: string): number {
    return this.textStyleAt.get(name.toLowerCase()) ?? 0;
  }

  setTextStyle(style: TextStyle): number {
    return put(this.textStyles, this.textStyleAt, style);
  }

  /** What a named view of a layout shows. */
  view(name: string): Box | undefined {
    return this.views.get(name.toLowerCase());
  }

  setView(name: string, shown: Box): void {
    this.views.set(name.toLowerCase(), shown);
  }

  /** Name of the block that the handle of a block record refers to. */
  blockOfHandle(handle: string): string | undefined {
    return this.blockHandles.get(handle.toUpperCase());
  }

  setBlockHandle(handle: string, name: string): void {
    if (handle) this.blockHandles.set(handle.toUpperCase(), name);
  }

  /** Index of the layer that a handle refers to. */
  layerOfHandle(handle: string): number | undefined {
    return this.layerHandles.get(handle.toUpperCase());
  }

  setLayerHandle(handle: string, layer: number): void {
    if (handle) this.layerHandles.set(handle.toUpperCase(), layer);
  }

  /** How dimensions of a style look; as the drawing says for all of them where it does not define it. */
  dimensionLooks(style: string): DimensionStyle {
    return this.dimensionStyles.get(style.toLowerCase()) ?? this.standardDimensions;
  }

  setDimensionStyle(style: string, looks: DimensionStyle): void {
    this.dimensionStyles.set(style.toLowerCase(), looks);
  }

  tables(): Pick<Drawing, 'layers' | 'lineTypes' | 'textStyles'> {
    return { layers: this.layers, lineTypes: this.lineTypes, textStyles: this.textStyles };
  }
}

function put<T extends { name: string }>(list: T[], index: Map<string, number>, item: T): number {
  const key = item.name.toLowerCase();
  const known = index.get(key);
  if (known !== undefined) {
    list[known] = item;
    return known;
  }
  index.set(key, list.length);
  return list.push(item) - 1;
}
