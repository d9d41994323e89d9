import type { Drawing, Layer, LineType, Style, TextStyle } from '../../drawing/model';
import { COLOUR_FOREGROUND, WEIGHT_DEFAULT } from '../../drawing/model';

/** Name, in lower case, of the layer that never plots (DXF format). */
export const NEVER_PLOTS = 'defpoints';

/** Finds layers, line types and text styles by name (case-blind), making those that a file uses but does not define. */
export class NameTables {
  readonly layers: Layer[] = [];
  readonly lineTypes: LineType[] = [{ name: 'CONTINUOUS', dashes: [] }];
  readonly textStyles: TextStyle[] = [{ name: 'STANDARD', font: '', widthFactor: 1 }];
  private readonly layerAt = new Map<string, number>();
  /** Length of arrowheads where no style says it: the header's, else DXF's own 0.18. */
  standardArrow = 0.18;
  private readonly arrowSizes = new Map<string, number>();
  private readonly blockHandles = new Map<string, string>();
  private readonly layerHandles = new Map<string, number>();
  private readonly layerAsWritten = new Map<string, number>();
  /** Styles met lately, by a hash of what they say. */
  private readonly styles: (Style | undefined)[] = new Array<undefined>(1024).fill(undefined);
  private readonly lineTypeAt = new Map<string, number>([['continuous', 0]]);
  private readonly textStyleAt = new Map<string, number>([['standard', 0]]);

  layer(name: string): number {
    const written = this.layerAsWritten.get(name);
    if (written !== undefined) return written;
    const index = this.layerByKey(name);
    this.layerAsWritten.set(name, index);
    return index;
  }

  private layerByKey(name: string): number {
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
    const slot = Math.imul(Math.imul(Math.imul(layer, 31) + colour, 31) + weight, 31) & (this.styles.length - 1);
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

  /** Index of a line type; continuous for a name that the file does not define. */
  lineType(name: string): number {
    return this.lineTypeAt.get(name.toLowerCase()) ?? 0;
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

  /** Length of the arrowheads of a dimension style, drawing units. */
  arrowSize(style: string): number {
    return this.arrowSizes.get(style.toLowerCase()) ?? this.standardArrow;
  }

  setArrowSize(style: string, size: number): void {
    this.arrowSizes.set(style.toLowerCase(), size);
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
