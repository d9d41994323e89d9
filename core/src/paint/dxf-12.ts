import { escaped, groups, section, type DxfTables, type Groups, type WrittenDxf } from './dxf-file';

/** Codes that came with later releases: handles, owners, subclasses, line weights, true colours, transparency. */
const LATER = new Set<number | string>([5, 100, 330, 370, 390, 420, 440]);
const MAX_NAME = 31;
/** Codes of names of layers, line types and text styles in entities. */
const [STYLE, LINE_TYPE] = [7, 6];

/**
 * A text DXF as release 12 wrote it, in ASCII: no handles, no objects, short names in capitals (published DXF
 * reference of that release). Its header has no place for the unit.
 */
export class Dxf12File implements WrittenDxf {
  private readonly body: string[] = [];
  private readonly blocks: string[] = [];
  private into = this.body;
  private readonly names = new Map<string, string>();
  private readonly taken = new Set<string>();

  constructor(private readonly tables: DxfTables) {
    for (const name of ['0', 'CONTINUOUS', 'STANDARD']) this.taken.add(name);
    this.names.set('0', '0').set('Continuous', 'CONTINUOUS').set('Standard', 'STANDARD');
  }

  entity(type: string, layer: string, common: Groups, own: Groups): void {
    const named =
      type === 'INSERT' ? own.map((value, i) => (own[i - 1] === 2 ? this.nameOf(String(value)) : value)) : own;
    this.into.push(groups([0, type, 8, this.nameOf(layer), ...this.plain(common), ...this.plain(named)]));
  }

  picture(): false {
    return false;
  }

  block(name: string, draw: () => void): void {
    const short = this.nameOf(name);
    this.into = [];
    draw();
    const begin = groups([0, 'BLOCK', 8, '0', 2, short, 70, 0, 10, 0, 20, 0, 30, 0, 3, short]);
    this.blocks.push(begin, ...this.into, groups([0, 'ENDBLK', 8, '0']));
    this.into = this.body;
  }

  toString(): string {
    const { xmin, ymin, xmax, ymax } = this.tables.box;
    const extents = [9, '$EXTMIN', 10, xmin, 20, ymin, 30, 0, 9, '$EXTMAX', 10, xmax, 20, ymax, 30, 0];
    const text = [
      section('HEADER', [9, '$ACADVER', 1, 'AC1009', 9, '$LTSCALE', 40, 1, ...extents]),
      section('TABLES', [], this.tablesSection()),
      section('BLOCKS', [], this.blocks.join('')),
      section('ENTITIES', [], this.body.join('')),
      groups([0, 'EOF']),
    ].join('');
    return text.replace(/[^\x00-\x7f]/gu, escaped);
  }

  private tablesSection(): string {
    const { layers, lineTypes, styles } = this.tables;
    const patterns = [{ name: 'Continuous', dashes: [] }, ...lineTypes].map(({ name, dashes }): Groups => {
      const total = dashes.reduce((sum: number, dash) => sum + dash, 0);
      const pattern = dashes.flatMap((dash, i) => [49, i % 2 ? -dash : dash]);
      return [2, this.nameOf(name), 70, 0, 3, '', 72, 65, 73, dashes.length, 40, total, ...pattern];
    });
    return [
      this.table('LTYPE', patterns),
      this.table(
        'LAYER',
        layers.map(({ name, off, looks = [] }) => {
          const index = Number(looks[looks.indexOf(62) + 1] ?? 7);
          return [2, this.nameOf(name), 70, 0, 62, off ? -index : index, 6, 'CONTINUOUS'];
        }),
      ),
      this.table(
        'STYLE',
        styles.map(({ name }) => [2, this.nameOf(name), 70, 0, 40, 0, 41, 1, 50, 0, 71, 0, 42, 2.5, 3, 'txt', 4, '']),
      ),
    ].join('');
  }

  private table(name: string, entries: readonly Groups[]): string {
    const written = entries.map((entry) => groups([0, name, ...entry]));
    return groups([0, 'TABLE', 2, name, 70, entries.length]) + written.join('') + groups([0, 'ENDTAB']);
  }

  /** Groups without those that came later. */
  private plain(pairs: Groups): Groups {
    const kept: (number | string)[] = [];
    for (let i = 0; i < pairs.length; i += 2) {
      const [code, value] = [pairs[i]!, pairs[i + 1]!];
      if (LATER.has(code)) continue;
      kept.push(code, code === STYLE || code === LINE_TYPE ? this.nameOf(String(value)) : value);
    }
    return kept;
  }

  /** A name as the release knows them, one for each; those that are cut alike are counted. */
  private nameOf(name: string): string {
    const known = this.names.get(name);
    if (known !== undefined) return known;
    const clean = name.toUpperCase().replace(/[^A-Z0-9$_-]/g, '_');
    let short = clean.slice(0, MAX_NAME) || '_';
    for (let count = 2; this.taken.has(short); count++) {
      short = `${clean.slice(0, MAX_NAME - 1 - String(count).length)}_${count}`;
    }
    this.taken.add(short);
    this.names.set(name, short);
    return short;
  }
}
