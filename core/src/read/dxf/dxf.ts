import {
  type AttributeDefinition,
  type Block,
  type Drawing,
  type Entity,
  type PictureSource,
  type PlainEntity,
  type PlotSettings,
  type Space,
} from '../../drawing/model';
import type { ReadResult } from '../result';
import type { Place } from '../../problem';
import { Warnings } from '../warnings';
import { BinaryGroupReader } from './binary';
import { Doubles } from './doubles';
import { decodeDxfText } from './text';
import { plainTextOf, readAttribute } from './texts';
import type { EntityContext } from './context';
import { isConstant, isInvisible, readEntity, styleOf } from './entities';
import { GroupReader, type Mark } from './groups';
import { Header } from './header';
import { plotOfLimits, plotSettingsOf } from './layouts';
import { drawMultiline, readMultilineStyle, type Multiline, type MultilineStyle } from './mline';
import { NameTables } from './names';
import { addVertex, finishPolyline, openPolyline, type OpenPolyline } from './polyline';
import { projectModel } from './project-model';
import { PLAN } from './projection';
import { Record } from './record';
import { Projections } from './projections';
import { decoderFor, isBinary, refusalOf } from './recognise';
import { readTableEntry } from './tables';

const STANDARD_WEIGHT = 25;
const ACTIVE_LAYOUT = '*paper_space';
/** Bytes of UTF-8's byte order mark. */
const BYTE_ORDER_MARK = 3;

/**
 * Reads DXF, text or binary, any version's structure. Never throws on bad input: what could be read comes back with
 * warnings, or one refusal when the bytes are not a DXF at all.
 */
export function readDxf(bytes: Uint8Array, name: string): ReadResult {
  if (isBinary(bytes)) return new DxfFile(new BinaryGroupReader(bytes, decoderFor(bytes)), name).read();
  const problem = refusalOf(bytes, name);
  if (problem) return { ok: false, problem };
  const groups = new GroupReader(bytes, decoderFor(bytes), bytes[0] === 0xef ? BYTE_ORDER_MARK : 0);
  return new DxfFile(groups, name).read();
}

class DxfFile {
  private readonly warnings: Warnings;
  private readonly header = new Header();
  private readonly names = new NameTables(this.header.dimensions);
  private readonly record: Record;
  private readonly context: EntityContext;
  private readonly blocks = new Map<string, Block>();
  private readonly model: Entity[] = [];
  private readonly activePaper: Entity[] = [];
  private readonly drawnBlocks = new Map<string, Entity[]>();
  private readonly layouts: { name: string; owner: string; plot: PlotSettings | undefined }[] = [];
  private readonly references = new Set<string>();
  private readonly pictures: PictureSource[] = [];
  private readonly pictureAt = new Map<string, { index: number; place: Place }>();
  /** By the line in the file, since projections read them again. */
  private readonly multilines = new Map<number, { name: string; line: Multiline; block: Block }>();
  private readonly multilineStyles: MultilineStyle[] = [];
  private readonly projections = new Projections();
  /** Where entities of the model, and of each block by its name in lower case, begin. */
  private readonly modelMarks: Mark[] = [];
  private readonly blockMarks = new Map<string, Mark>();
  private sections = 0;
  private ended = false;

  constructor(
    private readonly groups: GroupReader,
    private readonly name: string,
  ) {
    this.warnings = new Warnings(name);
    this.record = new Record(this.groups);
    this.context = {
      names: this.names,
      warnings: this.warnings,
      doubles: new Doubles(),
      projections: this.projections,
      projection: PLAN,
      linked: (definition, place) => this.linkedPicture(definition, place),
      wrapped: (entity, how) => this.wrappingBlock(entity, how),
      multiline: (line) => this.multilineBlock(line),
      drawnBlock: (block, drawn) => this.drawnBlock(block, drawn),
    };
    this.names.layer('0');
  }

  read(): ReadResult {
    while (!this.ended && this.groups.next()) {
      if (this.groups.code !== 0) continue;
      const word = this.groups.keyword();
      if (word === 'EOF') this.ended = true;
      else if (word === 'SECTION') this.section();
    }
    if (this.sections === 0) {
      const sentence = `${this.name} holds no DXF sections; save the drawing as DXF again and add that file.`;
      return { ok: false, problem: { code: 'dxf.no-sections', sentence, place: { file: this.name } } };
    }
    if (!this.ended) {
      const sentence = `${this.name} breaks off at line ${this.groups.line}; what came before is shown. Ask for the file again.`;
      this.warnings.add('dxf.truncated', sentence, { line: this.groups.line });
    }
    return { ok: true, drawing: this.drawing(), warnings: this.warnings.list() };
  }

  private drawing(): Drawing {
    for (const [name, entities] of this.drawnBlocks) {
      if (!this.blocks.has(name)) this.blocks.set(name, { name, baseX: 0, baseY: 0, entities });
    }
    const projections = this.project();
    this.drawMultilines();
    this.tellUnshown();
    return {
      name: this.name,
      format: this.header.format,
      unit: this.header.unit,
      ...(this.header.metric !== undefined && { metric: this.header.metric }),
      lineTypeScale: this.header.lineTypeScale,
      dashesOnPaper: this.header.dashesOnPaper,
      pointStyle: this.header.pointStyle,
      defaultWeight: STANDARD_WEIGHT,
      ...this.names.tables(),
      blocks: this.blocks,
      spaces: [{ name: 'model', kind: 'model', entities: this.model }, ...this.layoutSpaces()],
      ...(projections.length > 0 && { projections }),
      pictures: this.pictures,
      references: [...this.references],
    };
  }

  /** The model as viewports see it from other sides. What is wrong with its entities was said when they were read first. */
  private project(): Entity[][] {
    const { groups, record, blocks, warnings } = this;
    const context = { ...this.context, warnings: new Warnings(this.name) };
    const [model, marks] = [this.modelMarks, this.blockMarks];
    return projectModel(this.projections.all, { groups, record, context, model, marks, blocks, warnings });
  }

  /** Warnings of what only the end of the file settles. */
  private tellUnshown(): void {
    for (const [lineType, place] of this.names.withFigures) {
      if (!this.names.usedLineTypes.has(lineType)) continue;
      const { name } = this.names.lineTypes[lineType]!;
      const sentence = `Line type ${name} has texts or figures along the line; its dashes are shown without them.`;
      this.warnings.add('dxf.line-type', sentence, place);
    }
    for (const { index, place } of this.pictureAt.values()) {
      if (this.pictures[index]!.linked) continue;
      const sentence = 'A picture does not say which file it is in; a crossed box stands for it.';
      this.warnings.add('dxf.picture', sentence, place);
    }
  }

  private layoutSpaces(): Space[] {
    // Before layouts had names (R12) there was one.
    if (this.layouts.length === 0 && this.activePaper.length > 0) {
      const plot = plotOfLimits(this.header.paperLimits);
      return [{ name: 'Layout1', kind: 'layout', entities: this.activePaper, ...(plot && { plot }) }];
    }
    return this.layouts.map(({ name, owner, plot }) => {
      const block = this.names.blockOfHandle(owner)?.toLowerCase() ?? '';
      const entities =
        block === ACTIVE_LAYOUT && this.activePaper.length
          ? this.activePaper
          : (this.blocks.get(block)?.entities ?? []);
      return { name, kind: 'layout', entities, ...(plot && { plot }) };
    });
  }

  private section(): void {
    if (!this.groups.next() || this.groups.code !== 2) return;
    this.sections++;
    const name = this.groups.keyword();
    if (name === 'HEADER') this.header.read(this.groups);
    else if (name === 'ENTITIES') {
      this.modelMarks.push(this.groups.mark());
      this.entities((entity) => this.place(entity));
    } else this.records(name);
  }

  /** Tables, blocks and objects: each record on its own, up to the end of the section. */
  private records(section: string): void {
    while (this.groups.next()) {
      if (this.groups.code !== 0) continue;
      const word = this.groups.keyword();
      if (word === 'ENDSEC') return;
      if (word === 'EOF') return this.groups.hold();
      this.record.read();
      if (section === 'TABLES') readTableEntry(this.record, this.names);
      else if (section === 'BLOCKS' && word === 'BLOCK') this.block();
      else if (section === 'OBJECTS' && word === 'LAYOUT') this.layout();
      else if (section === 'OBJECTS' && word === 'SORTENTSTABLE') this.order();
      else if (section === 'OBJECTS' && word === 'IMAGEDEF') this.pictureFile();
      else if (section === 'OBJECTS' && word === 'PDFDEFINITION') this.pictureFile(true);
      else if (section === 'OBJECTS' && word === 'MLINESTYLE') this.multilineStyle();
    }
  }

  private layout(): void {
    const { record } = this;
    let name = '';
    for (let i = 0; i < record.count; i++) if (record.codes[i] === 1) name = record.textAt(i);
    const owner = record.text(330);
    let last = owner;
    for (let i = 0; i < record.count; i++) if (record.codes[i] === 330) last = record.textAt(i);
    if (!name || name.toLowerCase() === 'model') return;
    const { plot, unfound } = plotSettingsOf(record, (view) => this.names.view(view));
    this.layouts.push({ name, owner: last, plot });
    if (unfound === undefined) return;
    const sentence = `Layout ${name} plots ${unfound}; it is shown whole. Set it to plot its layout or a window.`;
    this.warnings.add('dxf.plot-area', sentence, { line: record.line });
  }

  /** Draw order of a space or block (SORTENTSTABLE): each entity takes the place of the handle it is paired with. */
  private order(): void {
    const { record } = this;
    const places = new Map<string, number>();
    let owner = '';
    for (let i = 0; i < record.count; i++) {
      if (record.codes[i] === 330) owner = record.textAt(i);
      if (record.codes[i] === 331 && record.codes[i + 1] === 5) {
        places.set(record.textAt(i).toUpperCase(), parseInt(record.textAt(i + 1), 16));
      }
    }
    const block = this.names.blockOfHandle(owner)?.toLowerCase() ?? '';
    const own = this.blocks.get(block)?.entities;
    const entities = block === '*model_space' ? this.model : block === ACTIVE_LAYOUT ? this.activePaper : own;
    if (!entities || places.size === 0) return;
    const place = ({ handle }: Entity): number => places.get(handle.toUpperCase()) ?? parseInt(handle, 16);
    const placed = entities.map((entity) => ({ entity, at: place(entity) || 0 }));
    placed.sort((a, b) => a.at - b.at).forEach(({ entity }, i) => (entities[i] = entity));
  }

  private block(): void {
    const { record } = this;
    const block: Block = {
      name: record.text(2),
      baseX: record.number(10),
      baseY: record.number(20),
      entities: [],
    };
    const external = (record.integer(70) & 4) === 4;
    if (external) {
      block.external = this.refer(record.text(1));
      const sentence = `${block.name} refers to another file (${record.text(1)}), which is not part of this one; add that drawing too.`;
      this.warnings.add('dxf.external', sentence, { line: record.line }, block.external);
    }
    this.blocks.set(block.name.toLowerCase(), block);
    this.blockMarks.set(block.name.toLowerCase(), this.groups.mark());
    this.entities(
      (entity) => block.entities.push(entity),
      'ENDBLK',
      isLayoutBlock(block.name) ? undefined : (blank) => (block.attributes ??= []).push(blank),
    );
  }

  /** Keeps the name of a file that is referred to, without the folders of somebody else's disk. */
  private refer(path: string): string {
    const name = path.split(/[/\\]/).pop()!.trim();
    if (name) this.references.add(name);
    return name;
  }

  private linkedPicture(definition: string, place: Place): number {
    const known = this.pictureAt.get(definition);
    if (known) return known.index;
    const index = this.pictures.push({ kind: 'linked', bytes: new Uint8Array(0), page: 1, linked: '' }) - 1;
    this.pictureAt.set(definition, { index, place });
    return index;
  }

  /** IMAGEDEF, PDFDEFINITION: the file behind the pictures and underlays that refer to it. */
  private pictureFile(underlay = false): void {
    const name = this.refer(this.record.text(1));
    const used = this.pictureAt.get(this.record.text(5));
    if (!used) return;
    const picture = this.pictures[used.index]!;
    picture.linked = name;
    // Pages of PDFs are named by their numbers.
    if (underlay) {
      picture.underlay = true;
      picture.page = Math.max(1, Number.parseInt(this.record.text(2), 10) || 1);
    }
    const what = underlay ? `Page ${picture.page} of ${name} lies below the drawing` : `A picture is in ${name}`;
    const sentence = `${what} (another file); add that too. Until then a crossed box stands for it.`;
    this.warnings.add('dxf.picture', sentence, used.place, name);
  }

  private wrappingBlock(entity: PlainEntity, how: Pick<Block, 'clip' | 'group'>): string {
    const name = `*picture ${this.blocks.size}`;
    this.blocks.set(name, { name, baseX: 0, baseY: 0, entities: [entity], ...how });
    return name;
  }

  private multilineBlock(line: Multiline): string {
    const known = this.multilines.get(this.record.line);
    if (known) return known.name;
    const name = `*multiline ${this.blocks.size}`;
    const block: Block = { name, baseX: 0, baseY: 0, entities: [] };
    this.blocks.set(name, block);
    this.multilines.set(this.record.line, { name, line, block });
    return name;
  }

  private multilineStyle(): void {
    this.multilineStyles.push(readMultilineStyle(this.record));
  }

  private drawMultilines(): void {
    for (const [at, { line, block }] of this.multilines) {
      const style =
        this.multilineStyles.find(({ handle }) => handle === line.styleHandle) ??
        this.multilineStyles.find(({ name }) => name === line.styleName);
      block.entities.push(...drawMultiline(line, style, this.names));
      if (style) continue;
      const sentence =
        'An MLINE refers to a style that is not in the file; it is shown without its colours, caps and fill.';
      this.warnings.add('dxf.multiline-style', sentence, { handle: line.handle, line: at });
    }
  }

  /** The block of a dimension or table: its own, or what is drawn in its place, which gives way should the block come later. */
  private drawnBlock(block: string, drawn: () => Entity[] | undefined): string | undefined {
    if (this.blocks.has(block)) return block;
    const entities = drawn();
    if (!entities) return block || undefined;
    const name = block || `*drawn ${this.drawnBlocks.size}`;
    this.drawnBlocks.set(name, entities);
    return name;
  }

  /** Puts an entity of the ENTITIES section into the model or into the layout that was active when saved. */
  private place(entity: Entity): void {
    (this.record.integer(67) === 1 ? this.activePaper : this.model).push(entity);
  }

  private entities(
    take: (entity: Entity) => void,
    until = 'ENDSEC',
    blank?: (definition: AttributeDefinition) => void,
  ): void {
    let polyline: OpenPolyline | undefined;
    let owner: Entity | undefined;
    while (this.groups.next()) {
      if (this.groups.code !== 0) continue;
      const word = this.groups.keyword();
      if (word === until) break;
      if (word === 'EOF' || word === 'ENDSEC') {
        this.groups.hold();
        break;
      }
      const record = this.record.read();
      if (record.type === 'VERTEX') {
        if (polyline) addVertex(polyline, record, this.warnings);
        continue;
      }
      if (polyline) {
        finishPolyline(polyline);
        polyline = undefined;
      }
      if (record.type === 'POLYLINE') {
        polyline = openPolyline(record, this.names);
        take(polyline.placed);
        continue;
      }
      if (record.type === 'ATTDEF' && !isConstant(record)) {
        const text = readAttribute(record, styleOf(record, this.names), record.text(5), this.names);
        const tag = record.text(2);
        if (blank) blank({ tag, prompt: decodeDxfText(record.text(3)), text });
        // Outside a block there is nothing to fill in: it shows its tag.
        else if (!isInvisible(record) && record.integer(60) !== 1) take({ ...plainTextOf(text), lines: [tag] });
        continue;
      }
      const read = readEntity(record, this.context);
      const entity = read[0];
      if (!entity) continue;
      if (record.type === 'ATTRIB' && owner?.kind === 'insert' && entity.kind === 'text') {
        if (!isInvisible(record)) owner.attributes.push({ ...entity, tag: record.text(2) });
        continue;
      }
      if (entity.kind !== 'viewport') owner = entity.kind === 'tilted' ? entity.entity : entity;
      for (let i = 0; i < read.length; i++) take(read[i]!);
    }
    if (polyline) finishPolyline(polyline);
  }
}

/** True for the blocks that hold the entities of the model and of the layouts. */
function isLayoutBlock(name: string): boolean {
  return /^[*$](model|paper)_space\d*$/i.test(name);
}
