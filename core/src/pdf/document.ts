import { POINTS_PER_MM } from '../measure/units';
import { UNITS_PER_MM } from '../page/page';
import type { FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { userUnit } from './user-unit';
import { withNumbers, type ForeignObjects } from './foreign';
import {
  CMAP_ENTRIES,
  fontName,
  fontObjects,
  fontProgram,
  glyphMap,
  glyphOfCode,
  programEntries,
  useCode,
  type FontNumbers,
  type Subset,
  type UsedCodes,
} from './embed-font';
import { FileWriter, type ObjectWriter, type PdfVersion, type Protection, type Sink } from './file-writer';
import { gradientEntries, GradientTable } from './gradients';
import { LayerTable, type LayerStates } from './layers';
import { LinearFileWriter } from './linear-file';
import { linkAnnotation, tintForm, type LinkLook, type LinkTarget } from './links';
import { viewport } from './measuring';
import { writeOutline, type OutlineEntry } from './outline';
import { metadata, type DocumentFacts } from './metadata';
import type { Deflate, SheetPart } from './part';
import { srgbProfile } from './srgb';
import { dateString, points, textString } from './syntax';

/** A page in the outline and the page labels. */
export interface PageFacts {
  number: string;
  title: string;
  /** Name of its group; absent or empty: none. */
  group?: string;
  /** What links lead to it by; absent: none do. */
  key?: string;
  /** Names its content: pages of one name share theirs. Absent: it has its own. */
  content?: string;
}

/** How a file is written, where it differs from the default. */
export interface DocumentOptions {
  version?: PdfVersion;
  /** Has the file say, and be, PDF/A-2b (ISO 19005-2): for keeping. */
  archival?: boolean;
  protection?: Protection;
  layers?: LayerStates;
  /** Degrees clockwise by which pages are turned when shown (ISO 32000-2, table 31). */
  turn?: 90 | 180 | 270;
  /** How the first page is shown when the file is opened; absent: the whole page. */
  opens?: 'page' | 'width' | 'full-size';
  /** Which bookmarks it has; absent: its pages and the views on them. */
  bookmarks?: 'sheets' | 'none';
  /** Lays the file out so that its first page shows before the rest has come. */
  linearised?: boolean;
  links?: {
    /** Where a sheet number on a page leads; undefined: nowhere. Keys are those of pages of the file. */
    target(names: string, from: PageFacts): { key: string } | LinkTarget | undefined;
    look?: LinkLook;
  };
}

/** What the writer needs from its host. */
export interface PdfTools {
  fonts: FontSet;
  deflate: Deflate;
  subset: Subset;
}

const ASCII = new TextEncoder();

/**
 * Writes a PDF file page by page. Each page goes to the sink as it comes; what stays in memory is a few numbers
 * a page, the layer table and the character codes used. Everything in the file follows from the arguments: the same input
 * gives the same bytes.
 */
export class PdfDocument {
  private readonly pages: { object: number; facts: PageFacts; height: number; views: OutlineEntry[] }[] = [];
  private readonly pageObjects = new Map<string, number>();
  private readonly layers: LayerTable;
  private readonly fonts = new Map<FontId, { numbers: FontNumbers; used: UsedCodes }>();
  /** Object number of what was taken in from elsewhere, by its key. */
  private readonly foreign = new Map<string, number>();
  /** Object number of content that pages have alike, by all that it consists of. */
  private readonly repeated = new Map<string, number>();
  /** Object number of the content of pages that may come again, by their keys. */
  private readonly contents = new Map<string, number>();
  private readonly opacities = new Map<number, number>();
  private readonly gradients: GradientTable;
  private readonly file: ObjectWriter;
  private readonly pageTree: number;

  constructor(
    sink: Sink,
    private readonly tools: PdfTools,
    private readonly facts: DocumentFacts,
    private readonly options: DocumentOptions = {},
  ) {
    const { version = '1.7', protection, layers } = options;
    this.layers = new LayerTable(layers);
    const fileOptions = { version, ...(protection && { protection }) };
    this.file = options.linearised
      ? new LinearFileWriter(sink, fileOptions)
      : new FileWriter(sink, tools.deflate, fileOptions);
    this.gradients = new GradientTable(this.file);
    this.pageTree = this.file.reserve();
  }

  /** The page of a key, also before it is added: what leads there may come first. */
  private pageOf(key: string): number {
    let object = this.pageObjects.get(key);
    if (object === undefined) this.pageObjects.set(key, (object = this.file.reserve()));
    return object;
  }

  /** Adds a page. `part` is not kept. */
  addPage(part: SheetPart, facts: PageFacts): void {
    const { file } = this;
    const content = this.contentOf(part, facts);
    const unit = userUnit(part);
    const perMm = POINTS_PER_MM / unit;
    const side = (mm: number): string => points(mm * perMm);
    const fonts = part.fonts.map(([id, codes]) => this.fontEntry(id, codes));
    const layers = part.layers.map(
      ([index, layer]) => `/L${index} ${this.layers.objectOf(layer, () => file.reserve())} 0 R`,
    );
    const pictures = part.pictures.map((picture, i) => `/P${i} ${this.foreignObject(picture)} 0 R`);
    const repeated = part.repeated.map((one, i) => `/R${i} ${this.repeatedForm(part, one)} 0 R`);
    const groups = part.groups.map(({ masks }, i) => ({ masks, object: file.reserve(), name: i }));
    const groupForms = groups.map(({ name, object }) => `/X${name} ${object} 0 R`);
    const objects = [...pictures, ...repeated, ...groupForms];
    const unitsPerSide: [number, number] = [part.widthMm * UNITS_PER_MM, part.heightMm * UNITS_PER_MM];
    const shades = gradientEntries(this.gradients, part.gradients, perMm / UNITS_PER_MM, unitsPerSide);
    const opacities = part.opacities.map((opacity) => `/G${opacity} ${this.opacityState(opacity)} 0 R`);
    const masks = groups.flatMap(({ name, object, masks }) => (masks ? `/K${name} ${this.maskState(object)} 0 R` : []));
    const states = [...opacities, ...shades.states, ...masks];
    const resources =
      '<<' +
      (fonts.length ? ` /Font << ${fonts.join(' ')} >>` : '') +
      (objects.length ? ` /XObject << ${objects.join(' ')} >>` : '') +
      (states.length ? ` /ExtGState << ${states.join(' ')} >>` : '') +
      (shades.patterns.length ? ` /Pattern << ${shades.patterns.join(' ')} >>` : '') +
      (layers.length ? ` /Properties << ${layers.join(' ')} >>` : '') +
      ' >>';
    // Groups share the resources of their page, which name the groups.
    const shared = groups.length > 0 ? `${file.object(resources)} 0 R` : undefined;
    const box = `[0 0 ${side(part.widthMm)} ${side(part.heightMm)}]`;
    groups.forEach(({ object }, i) => {
      const entries =
        `/Type /XObject /Subtype /Form /BBox ${box} /Resources ${shared}` +
        ' /Group << /S /Transparency /I true /CS /DeviceRGB >>';
      file.stream(entries, part.groups[i]!.content, true, object);
    });
    const links = this.links(part, facts, perMm);
    const areas = this.options.version === '1.4' ? [] : part.measured.map((area) => viewport(area, unit));
    const object = this.pageOf(facts.key ?? `page ${this.pages.length}`);
    file.define(
      object,
      `<< /Type /Page /Parent ${this.pageTree} 0 R /MediaBox ${box}` +
        (unit > 1 ? ` /UserUnit ${unit}` : '') +
        (this.options.turn ? ` /Rotate ${this.options.turn}` : '') +
        (links.length ? ` /Annots [${links.map((link) => `${link} 0 R`).join(' ')}]` : '') +
        (areas.length ? ` /VP [${areas.join(' ')}]` : '') +
        ` /Contents ${content} 0 R /Resources ${shared ?? resources} >>`,
    );
    const views = part.measured.map(({ name, box }): OutlineEntry => ({
      title: name,
      page: object,
      box: box.map((mm) => mm * perMm),
      entries: [],
    }));
    const height = part.heightMm * perMm;
    this.pages.push({ object, facts, height, views: views.length > 1 ? views : [] });
  }

  /** The content stream of a page, written once for all copies of it. */
  private contentOf(part: SheetPart, { content: key }: PageFacts): number {
    const known = key === undefined ? undefined : this.contents.get(key);
    const object = known ?? this.file.stream('', part.content, true);
    if (key !== undefined) this.contents.set(key, object);
    return object;
  }

  /** Annotations for what in the texts of a page leads somewhere; not to the page itself. */
  private links(part: SheetPart, facts: PageFacts, perMm: number): number[] {
    const { target, look = 'none' } = this.options.links ?? {};
    if (!target) return [];
    return part.references.flatMap(({ kind, names, box }) => {
      const found = kind === 'address' ? ({ kind, url: names } as const) : target(names, facts);
      if (!found) return [];
      const where = 'key' in found ? ({ kind: 'page', object: this.pageOf(found.key) } as const) : found;
      const rectangle = box.map((mm) => mm * perMm);
      const tint = look === 'tinted' ? this.tint(rectangle) : undefined;
      return [this.file.object(linkAnnotation(rectangle, where, look, tint))];
    });
  }

  private tint([xmin, ymin, xmax, ymax]: number[]): number {
    const { entries, content } = tintForm(xmax! - xmin!, ymax! - ymin!);
    return this.file.stream(entries, ASCII.encode(content), false);
  }

  /** Writes what belongs to the file as a whole. The document takes no pages afterwards. Returns its length in bytes. */
  finish(): number {
    const { pages, file } = this;
    const kids = pages.map(({ object }) => `${object} 0 R`).join(' ');
    file.define(this.pageTree, `<< /Type /Pages /Count ${pages.length} /Kids [${kids}] >>`);
    for (const { object, body } of this.layers.groups()) file.define(object, body);
    for (const id of this.tools.fonts.ids) this.embed(id);
    const { bookmarks } = this.options;
    const outline = bookmarks === 'none' ? undefined : writeOutline(file, this.outline());
    const xmp = file.stream(
      '/Type /Metadata /Subtype /XML',
      ASCII.encode(metadata(this.facts, this.options.archival)),
      false,
    );
    const labels = pages.map(({ facts }, i) => `${i} << /P ${textString(facts.number)} >>`).join(' ');
    const { version = '1.7' } = this.options;
    const root = file.object(
      `<< /Type /Catalog /Pages ${this.pageTree} 0 R` +
        (outline === undefined ? '' : ` /Outlines ${outline} 0 R /PageMode /UseOutlines`) +
        ` /PageLabels << /Nums [${labels}] >> /Metadata ${xmp} 0 R /ViewerPreferences << /DisplayDocTitle true >>` +
        this.openingView() +
        (this.layers.size ? ` /OCProperties ${this.layers.properties()}` : '') +
        (this.options.archival ? ` /OutputIntents [${this.outputIntent()}]` : '') +
        ' >>',
    );
    const { id } = this.facts;
    const order = pages.map(({ object }) => object);
    return file.finish({ root, id, pages: order, ...(version !== '2.0' && { info: this.information() }) });
  }

  /** What is shown first (ISO 32000-2, 12.3.2). */
  private openingView(): string {
    const [first] = this.pages;
    if (!first) return '';
    const view = {
      page: '/Fit',
      width: `/FitH ${points(first.height)}`,
      'full-size': `/XYZ 0 ${points(first.height)} 1`,
    };
    return ` /OpenAction [${first.object} 0 R ${view[this.options.opens ?? 'page']}]`;
  }

  /** What the colours of the file mean: sRGB (ISO 19005-2, 6.2.3). */
  private outputIntent(): string {
    const profile = this.file.stream('/N 3', this.tools.deflate(srgbProfile()), true);
    const name = textString('sRGB IEC61966-2-1');
    return `<< /Type /OutputIntent /S /GTS_PDFA1 /OutputConditionIdentifier ${name} /Info ${name} /DestOutputProfile ${profile} 0 R >>`;
  }

  private information(): number {
    const { title, author, producer, date } = this.facts;
    return this.file.object(
      `<< /Title ${textString(title)} /Creator ${textString(producer)} /Producer ${textString(producer)}` +
        (author ? ` /Author ${textString(author)}` : '') +
        (date ? ` /CreationDate ${dateString(date)} /ModDate ${dateString(date)}` : '') +
        ' >>',
    );
  }

  /** Sheets with their views, under their groups where there are several. */
  private outline(): OutlineEntry[] {
    const groups = new Set(this.pages.map(({ facts }) => facts.group ?? ''));
    const entries: OutlineEntry[] = [];
    for (const { object, facts, views } of this.pages) {
      const title = [facts.number, facts.title].filter(Boolean).join('  ');
      const entry: OutlineEntry = { title, page: object, entries: this.options.bookmarks === 'sheets' ? [] : views };
      const group = facts.group ?? '';
      if (groups.size < 2 || group === '') entries.push(entry);
      else if (entries.at(-1)?.page === undefined && entries.at(-1)?.title === group)
        entries.at(-1)!.entries.push(entry);
      else entries.push({ title: group, open: true, entries: [entry] });
    }
    return entries;
  }

  /** The form of content that pages have alike (ISO 32000-2, 8.10), in the units of their content; written once. */
  private repeatedForm({ widthMm, heightMm }: SheetPart, { content, fonts }: SheetPart['repeated'][number]): number {
    const box = [0, 0, widthMm, heightMm].map((mm) => Math.ceil(mm * UNITS_PER_MM)).join(' ');
    const named = fonts.map((id) => this.fontEntry(id, []));
    const entries = `/Type /XObject /Subtype /Form /BBox [${box}] /Resources << ${named.length ? `/Font << ${named.join(' ')} >> ` : ''}>>`;
    const key = `${entries}\n${latin1Of(content)}`;
    let object = this.repeated.get(key);
    if (object === undefined) this.repeated.set(key, (object = this.file.stream(entries, content, true)));
    return object;
  }

  private fontEntry(id: FontId, codes: readonly [number, number][]): string {
    return `/${fontName(id)} ${this.fontFor(id, codes)} 0 R`;
  }

  private fontFor(id: FontId, codes: readonly [number, number][]): number {
    let font = this.fonts.get(id);
    if (!font) {
      const numbers = {
        type0: this.file.reserve(),
        cidFont: this.file.reserve(),
        descriptor: this.file.reserve(),
        file: this.file.reserve(),
        toUnicode: this.file.reserve(),
      };
      this.fonts.set(id, (font = { numbers, used: new Map() }));
    }
    for (const [code, codePoint] of codes) useCode(font.used, code, codePoint);
    return font.numbers.type0;
  }

  private embed(id: FontId): void {
    const font = this.fonts.get(id);
    if (!font) return;
    const face = this.tools.fonts.face(id);
    const used = [...font.used].sort((a, b) => a[0] - b[0]);
    const codes = used.map(([code]) => code);
    const map = glyphMap(face, codes);
    const mapEntries = face.cff ? CMAP_ENTRIES : '';
    const numbers = map
      ? { ...font.numbers, glyphMap: this.file.stream(mapEntries, this.tools.deflate(map), true) }
      : font.numbers;
    const objects = fontObjects(face, used, numbers);
    this.file.define(font.numbers.type0, objects.type0);
    this.file.define(font.numbers.cidFont, objects.cidFont);
    this.file.define(font.numbers.descriptor, objects.descriptor);
    const glyphs = [...new Set(codes.map((code) => glyphOfCode(face, code)))];
    const file = face.embedding === 'whole' ? face.bytes : this.tools.subset(face, glyphs);
    const program = fontProgram(face, file);
    this.file.stream(programEntries(face, program), this.tools.deflate(program), true, font.numbers.file);
    this.file.stream('', this.tools.deflate(ASCII.encode(objects.toUnicode)), true, font.numbers.toUnicode);
  }

  /** Takes in objects from elsewhere; those known by their key already are not written again. */
  private foreignObject({ key, objects }: ForeignObjects): number {
    const known = this.foreign.get(key);
    if (known !== undefined) return known;
    const numbers = objects.map((object) =>
      'layer' in object ? this.layers.objectOf(object.layer, () => this.file.reserve()) : this.file.reserve(),
    );
    objects.forEach((object, i) => {
      if ('layer' in object) return;
      const body = withNumbers(object.body, numbers);
      if (object.stream) this.file.rawStream(body, object.stream, numbers[i]!);
      else this.file.define(numbers[i]!, body);
    });
    this.foreign.set(key, numbers[0]!);
    return numbers[0]!;
  }

  /** The state in which a group, drawn in the units of a page, masks what follows (ISO 32000-2, 11.6.5.2). */
  private maskState(group: number): number {
    return this.file.object(`<< /Type /ExtGState /SMask << /Type /Mask /S /Luminosity /G ${group} 0 R >> >>`);
  }

  private opacityState(opacity: number): number {
    let object = this.opacities.get(opacity);
    if (object === undefined) {
      object = this.file.object(`<< /Type /ExtGState /CA ${opacity / 100} /ca ${opacity / 100} >>`);
      this.opacities.set(opacity, object);
    }
    return object;
  }
}

function latin1Of(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += String.fromCharCode(byte);
  return text;
}
