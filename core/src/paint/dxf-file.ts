import type { Box } from '../geometry/box';

/** Group codes and values in turn, as DXF writes them: a line each. */
export type Groups = readonly (number | string)[];

/** A layer of a written file: its name, whether it shows. */
export interface WrittenLayer {
  name: string;
  off: boolean;
  /** Groups of its colour and weight; absent: the foreground's colour, the standard weight. */
  looks?: Groups;
}

export interface WrittenLineType {
  name: string;
  /** Lengths of dashes and gaps in turn, in the unit. */
  dashes: readonly number[];
}

export interface WrittenStyle {
  name: string;
  /** Family of the typeface. */
  family: string;
}

/** What a file is made of besides its entities. */
export interface DxfTables {
  unit: DxfUnit;
  version: DxfVersion;
  /** Around all of it, in the unit. */
  box: Box;
  layers: readonly WrittenLayer[];
  lineTypes: readonly WrittenLineType[];
  styles: readonly WrittenStyle[];
}

/** Handles of what every file has; entities count up from `FIRST`. */
const MODEL = '1F';
const PAPER = '1B';
const [ROOT, GROUPS, PICTURES] = ['C', 'D', 'E'];
const TABLES = { VPORT: '8', LTYPE: '5', LAYER: '2', STYLE: '3', VIEW: '6', UCS: '7', APPID: '9', DIMSTYLE: 'A' };
const RECORDS = '1';
const FIRST = 0x100;
/** Units by their codes in the header, and whether they are metric (published DXF reference, `$INSUNITS`, `$MEASUREMENT`). */
const UNITS = { mm: [4, 1], cm: [5, 1], m: [6, 1], in: [1, 0], ft: [2, 0] } as const;
export type DxfUnit = keyof typeof UNITS;
/** Releases by the years they are known by (`$ACADVER`). */
const RELEASES = { R12: 'AC1009', '2000': 'AC1015', '2010': 'AC1024', '2013': 'AC1027', '2018': 'AC1032' } as const;
export type DxfVersion = keyof typeof RELEASES;

/** A picture in a file of its own, in the same folder as the drawing. */
export interface PictureFile {
  name: string;
  /** Pixels. */
  width: number;
  height: number;
}

/** A file that takes entities and is written at the end. */
export interface WrittenDxf {
  /** Adds an entity: `common` are the groups of its looks, `own` those of its kind with their subclass markers. */
  entity(type: string, layer: string, common: Groups, own: Groups): void;
  /**
   * Adds a picture that is in a file of its own, so many pixels large; `own` are the groups of its place, given the
   * handles of its definition and of what ties the two together. False where the release has no pictures.
   */
  picture(layer: string, file: PictureFile, own: (definition: string, reactor: string) => Groups): boolean;
  /** Adds a block of the entities that `draw` adds. Blocks do not hold other blocks. */
  block(name: string, draw: () => void): void;
  toString(): string;
}

/**
 * A text DXF, everything in its model space; UTF-8, or ASCII with escapes in the release of 2000. Tables, owners and
 * handles are those that the published reference of the format asks for; the same calls give the same bytes.
 */
export class DxfFile implements WrittenDxf {
  private readonly body: string[] = [];
  private readonly blocks: { name: string; record: string; content: string[] }[] = [];
  private readonly definitions = new Map<string, { handle: string; picture: PictureFile; shown: string[] }>();
  /** Objects that tie pictures to their definitions: the handle of each, and that of its picture. */
  private readonly reactors: { handle: string; image: string }[] = [];
  /** What entities are added to, and the block record that owns them. */
  private into = this.body;
  private owner = MODEL;
  private handle = FIRST;

  constructor(private readonly tables: DxfTables) {}

  entity(type: string, layer: string, common: Groups, own: Groups): void {
    this.into.push(groups([0, type, 5, this.next(), 330, this.owner, 100, 'AcDbEntity', 8, layer, ...common, ...own]));
  }

  block(name: string, draw: () => void): void {
    const block = { name, record: this.next(), content: [] as string[] };
    this.blocks.push(block);
    [this.into, this.owner] = [block.content, block.record];
    draw();
    [this.into, this.owner] = [this.body, MODEL];
  }

  picture(layer: string, file: PictureFile, own: (definition: string, reactor: string) => Groups): true {
    let definition = this.definitions.get(file.name);
    if (!definition) this.definitions.set(file.name, (definition = { handle: this.next(), picture: file, shown: [] }));
    const [image, reactor] = [this.next(), this.next()];
    definition.shown.push(reactor);
    this.reactors.push({ handle: reactor, image });
    const head = [0, 'IMAGE', 5, image, 330, this.owner, 100, 'AcDbEntity', 8, layer];
    this.into.push(groups([...head, ...own(definition.handle, reactor)]));
    return true;
  }

  toString(): string {
    const { unit, version, box } = this.tables;
    const [code, measurement] = UNITS[unit];
    const { xmin, ymin, xmax, ymax } = box;
    const codePage = version === '2000' ? 'ANSI_1252' : 'UTF-8';
    const content = this.body.join('');
    const tables = this.tablesSection();
    const blocks = this.records().map(({ name, record, content }) => this.written(name, record, content.join('')));
    const seed = (this.handle + 1).toString(16).toUpperCase();
    const text = [
      section('HEADER', [
        ...[9, '$ACADVER', 1, RELEASES[version], 9, '$DWGCODEPAGE', 3, codePage, 9, '$HANDSEED', 5, seed],
        ...[9, '$INSUNITS', 70, code, 9, '$MEASUREMENT', 70, measurement, 9, '$LTSCALE', 40, 1],
        ...[9, '$LWDISPLAY', 290, 1, 9, '$EXTMIN', 10, xmin, 20, ymin, 30, 0, 9, '$EXTMAX', 10, xmax, 20, ymax, 30, 0],
      ]),
      section('CLASSES', this.classes()),
      tables,
      section('BLOCKS', [], blocks.join('')),
      section('ENTITIES', [], content),
      section('OBJECTS', [
        ...[0, 'DICTIONARY', 5, ROOT, 330, 0, 100, 'AcDbDictionary', 281, 1, 3, 'ACAD_GROUP', 350, GROUPS],
        ...(this.definitions.size > 0 ? [3, 'ACAD_IMAGE_DICT', 350, PICTURES] : []),
        ...[0, 'DICTIONARY', 5, GROUPS, 330, ROOT, 100, 'AcDbDictionary', 281, 1],
        ...this.pictureObjects(),
      ]),
      groups([0, 'EOF']),
    ].join('');
    return version === '2000' ? text.replace(/[^\x00-\x7f]/gu, escaped) : text;
  }

  /** Classes that a file with pictures declares: the name of its records, that of the class, and whether it is an entity. */
  private classes(): Groups {
    if (this.definitions.size === 0) return [];
    const classes = [
      ['IMAGE', 'AcDbRasterImage', 2175, this.reactors.length, 1],
      ['IMAGEDEF', 'AcDbRasterImageDef', 0, this.definitions.size, 0],
      ['IMAGEDEF_REACTOR', 'AcDbRasterImageDefReactor', 1, this.reactors.length, 0],
    ] as const;
    return classes.flatMap(([record, name, flags, count, entity]) => {
      return [0, 'CLASS', 1, record, 2, name, 3, 'ISM', 90, flags, 91, count, 280, 0, 281, entity];
    });
  }

  private pictureObjects(): Groups {
    const all = [...this.definitions.values()];
    if (all.length === 0) return [];
    const entries = all.flatMap(({ handle, picture }) => [3, picture.name, 350, handle]);
    const dictionary = [0, 'DICTIONARY', 5, PICTURES, 330, ROOT, 100, 'AcDbDictionary', 281, 1, ...entries];
    const definitions = all.flatMap(({ handle, picture: { name, width, height }, shown }) => [
      ...[0, 'IMAGEDEF', 5, handle, 102, '{ACAD_REACTORS', 330, PICTURES],
      ...[...shown.flatMap((reactor) => [330, reactor]), 102, '}', 330, PICTURES],
      ...[100, 'AcDbRasterImageDef', 90, 0, 1, name, 10, width, 20, height, 11, 1, 21, 1, 280, 1, 281, 0],
    ]);
    const reactors = this.reactors.flatMap(({ handle, image }) => [
      ...[0, 'IMAGEDEF_REACTOR', 5, handle, 330, image, 100, 'AcDbRasterImageDefReactor', 90, 2, 330, image],
    ]);
    return [...dictionary, ...definitions, ...reactors];
  }

  private next(): string {
    return (this.handle++).toString(16).toUpperCase();
  }

  private tablesSection(): string {
    const { box, layers, lineTypes, styles } = this.tables;
    const { xmin, ymin, xmax, ymax } = box;
    const lineType = (name: string, dashes: readonly number[]): Groups => {
      const pattern = dashes.flatMap((dash, i) => [49, i % 2 ? -dash : dash, 74, 0]);
      const total = dashes.reduce((sum, dash) => sum + dash, 0);
      return [100, 'AcDbLinetypeTableRecord', 2, name, 70, 0, 3, '', 72, 65, 73, dashes.length, 40, total, ...pattern];
    };
    const view = [100, 'AcDbViewportTableRecord', 2, '*Active', 70, 0, 10, 0, 20, 0, 11, 1, 21, 1];
    const [wide, high] = [xmax - xmin, ymax - ymin];
    const middle = [12, xmin + wide / 2, 22, ymin + high / 2, 40, high, 41, wide / high];
    return section(
      'TABLES',
      [],
      [
        this.table('VPORT', [[...view, ...middle]]),
        this.table('LTYPE', [
          ...['ByBlock', 'ByLayer', 'Continuous'].map((name) => lineType(name, [])),
          ...lineTypes.map(({ name, dashes }) => lineType(name, dashes)),
        ]),
        this.table(
          'LAYER',
          layers.map(({ name, off, looks = [62, 7, 370, -3] }) => {
            const shown = looks.map((value, i) => (off && looks[i - 1] === 62 ? -Number(value) : value));
            return [100, 'AcDbLayerTableRecord', 2, name, 70, 0, 6, 'Continuous', ...shown, 390, 0];
          }),
        ),
        this.table(
          'STYLE',
          styles.map(({ name, family }) => [
            ...[100, 'AcDbTextStyleTableRecord', 2, name, 70, 0, 40, 0, 41, 1, 50, 0],
            ...[71, 0, 42, 2.5, 3, `${family}.ttf`, 4, ''],
          ]),
        ),
        this.table('VIEW', []),
        this.table('UCS', []),
        this.table('APPID', [[100, 'AcDbRegAppTableRecord', 2, 'ACAD', 70, 0]]),
        this.table('DIMSTYLE', [[100, 'AcDbDimStyleTableRecord', 2, 'Standard', 70, 0]]),
        this.recordTable(),
      ].join(''),
    );
  }

  private table(name: keyof typeof TABLES, entries: readonly Groups[]): string {
    const owner = TABLES[name];
    const head = [0, 'TABLE', 2, name, 5, owner, 330, 0, 100, 'AcDbSymbolTable', 70, entries.length];
    const marked = name === 'DIMSTYLE' ? [...head, 100, 'AcDbDimStyleTable'] : head;
    // Dimension styles alone say their handle by another code.
    const code = name === 'DIMSTYLE' ? 105 : 5;
    const written = entries.map((entry) =>
      groups([0, name, code, this.next(), 330, owner, 100, 'AcDbSymbolTableRecord', ...entry]),
    );
    return groups(marked) + written.join('') + groups([0, 'ENDTAB']);
  }

  /** All blocks; those of the spaces are empty, since their content is in a section of its own. */
  private records(): DxfFile['blocks'] {
    const spaces = [
      { name: '*Model_Space', record: MODEL, content: [] },
      { name: '*Paper_Space', record: PAPER, content: [] },
    ];
    return [...spaces, ...this.blocks];
  }

  private recordTable(): string {
    const all = this.records();
    const records = all.flatMap(({ name, record }) => [
      ...[0, 'BLOCK_RECORD', 5, record, 330, RECORDS, 100, 'AcDbSymbolTableRecord'],
      ...[100, 'AcDbBlockTableRecord', 2, name, 340, 0],
    ]);
    const head = [0, 'TABLE', 2, 'BLOCK_RECORD', 5, RECORDS, 330, 0, 100, 'AcDbSymbolTable', 70, all.length];
    return groups([...head, ...records, 0, 'ENDTAB']);
  }

  private written(name: string, record: string, content: string): string {
    const entity = (type: string, marker: string): Groups => {
      return [0, type, 5, this.next(), 330, record, 100, 'AcDbEntity', 8, '0', 100, marker];
    };
    const begin = [...entity('BLOCK', 'AcDbBlockBegin'), 2, name, 70, 0, 10, 0, 20, 0, 30, 0, 3, name, 1, ''];
    return groups(begin) + content + groups(entity('ENDBLK', 'AcDbBlockEnd'));
  }
}

/** A character as releases before 2007 escape it; beyond their sixteen bits, a question mark. */
export function escaped(character: string): string {
  const code = character.codePointAt(0)!;
  return code > 0xffff ? '?' : `\\U+${code.toString(16).toUpperCase().padStart(4, '0')}`;
}

export function section(name: string, head: Groups, content = ''): string {
  return groups([0, 'SECTION', 2, name, ...head]) + content + groups([0, 'ENDSEC']);
}

export function groups(pairs: Groups): string {
  let out = '';
  for (let i = 0; i < pairs.length; i += 2) {
    const value = pairs[i + 1]!;
    out += `${pairs[i]}\n${typeof value === 'number' ? Math.round(value * 1e6) / 1e6 || 0 : value}\n`;
  }
  return out;
}
