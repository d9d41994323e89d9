/** Layer of a demo drawing: DXF colour index, line weight in 1/100 mm, line type. */
export interface LayerSpec {
  name: string;
  colour: number;
  /** 0xRRGGBB, in place of the index. */
  trueColour?: number;
  weight: number;
  lineType?: string;
  plots?: boolean;
}

const LINE_TYPES: readonly [name: string, dashes: number[]][] = [
  ['CENTER', [12, -3, 2, -3]],
  ['DASHED', [6, -3]],
  ['HIDDEN', [3, -1.5]],
  ['DOT', [0, -2]],
];

const STYLES: readonly [name: string, font: string][] = [
  ['STANDARD', 'simplex.shx'],
  ['LABELS', 'isocp.shx'],
  ['NOTES', 'arial.ttf'],
];

/** Group codes and values as lines; numbers with at most four decimals. */
export function groups(pairs: readonly (number | string)[]): string {
  let out = '';
  for (let i = 0; i < pairs.length; i += 2) {
    const value = pairs[i + 1]!;
    out += `${pairs[i]}\n${typeof value === 'number' ? String(Math.round(value * 1e4) / 1e4) : value}\n`;
  }
  return out;
}

/** The tables of a drawing: line types, layers, text styles and blocks. */
export function tables(layers: readonly LayerSpec[], blockNames: readonly string[]): string {
  return [
    table('LTYPE', LINE_TYPES.map(lineTypeEntry)),
    table('LAYER', layers.map(layerEntry)),
    table('STYLE', STYLES.map(styleEntry)),
    table('BLOCK_RECORD', blockNames.map(blockRecord)),
  ].join('');
}

function table(name: string, entries: readonly string[]): string {
  return (
    groups([0, 'TABLE', 2, name, 5, tableHandle(name), 100, 'AcDbSymbolTable', 70, entries.length]) +
    entries.join('') +
    groups([0, 'ENDTAB'])
  );
}

function blockRecord(name: string): string {
  const markers = [100, 'AcDbSymbolTableRecord', 100, 'AcDbBlockTableRecord'];
  return groups([0, 'BLOCK_RECORD', 5, tableHandle(`block ${name}`), ...markers, 2, name]);
}

/** A handle for a table or its entry, made from its name, far from those of entities. */
function tableHandle(name: string): string {
  let hash = 0;
  for (const c of name) hash = (Math.imul(hash, 31) + c.charCodeAt(0)) >>> 0;
  return (0x10000000 + (hash % 0x0fffffff)).toString(16).toUpperCase();
}

function lineTypeEntry([name, dashes]: (typeof LINE_TYPES)[number]): string {
  const total = dashes.reduce((sum, dash) => sum + Math.abs(dash), 0);
  const each = dashes.flatMap((dash) => [49, dash, 74, 0]);
  return groups([
    ...[0, 'LTYPE', 5, tableHandle(name), 100, 'AcDbSymbolTableRecord', 100, 'AcDbLinetypeTableRecord'],
    ...[2, name, 70, 0, 3, '', 72, 65, 73, dashes.length, 40, total],
    ...each,
  ]);
}

function layerEntry({ name, colour, trueColour, weight, lineType = 'CONTINUOUS', plots = true }: LayerSpec): string {
  return groups([
    ...[0, 'LAYER', 5, tableHandle(name), 100, 'AcDbSymbolTableRecord', 100, 'AcDbLayerTableRecord', 2, name],
    ...[70, 0, 62, colour],
    ...(trueColour === undefined ? [] : [420, trueColour]),
    ...[6, lineType, 290, plots ? 1 : 0, 370, weight],
  ]);
}

function styleEntry([name, font]: (typeof STYLES)[number]): string {
  return groups([
    ...[0, 'STYLE', 5, tableHandle(name), 100, 'AcDbSymbolTableRecord', 100, 'AcDbTextStyleTableRecord'],
    ...[2, name, 70, 0, 40, 0, 41, 1, 50, 0, 71, 0, 42, 2.5, 3, font, 4, ''],
  ]);
}
