import { POINTS_PER_MM } from '../measure/units';
import { FONT_IDS, type FontId } from '../text/fonts';
import type { FontSet } from '../text/layout';
import { userUnit } from './content';
import { withNumbers, type ForeignObjects } from './foreign';
import { fontObjects, type FontNumbers, type Subset } from './embed-font';
import { LayerTable } from './layers';
import { metadata, type DocumentFacts } from './metadata';
import type { Deflate, SheetPart } from './part';
import { dateString, points, textString } from './syntax';

/** Takes the bytes of a file in order. */
export interface Sink {
  write(bytes: Uint8Array): void;
}

/** What the outline and the page labels say of a page. */
export interface PageFacts {
  number: string;
  title: string;
}

/** What the writer needs from its host. */
export interface PdfTools {
  fonts: FontSet;
  deflate: Deflate;
  subset: Subset;
}

const ASCII = new TextEncoder();

/**
 * Writes a PDF 1.7 file page by page. Each page goes to the sink as it comes; what stays in memory is a few numbers
 * a page, the layer table and the glyphs used. Everything in the file follows from the arguments: the same input
 * gives the same bytes.
 */
export class PdfDocument {
  private readonly offsets: number[] = [0];
  private readonly pages: { object: number; facts: PageFacts }[] = [];
  private readonly layers = new LayerTable();
  private readonly fonts = new Map<FontId, { numbers: FontNumbers; glyphs: Map<number, number> }>();
  /** Object number of what was taken in from elsewhere, by its key. */
  private readonly foreign = new Map<string, number>();
  private readonly opacities = new Map<number, number>();
  private readonly pageTree: number;
  private position = 0;

  constructor(
    private readonly sink: Sink,
    private readonly tools: PdfTools,
    private readonly facts: DocumentFacts,
  ) {
    this.write('%PDF-1.7\n%\u00e2\u00e3\u00cf\u00d3\n');
    this.pageTree = this.reserve();
  }

  /** Adds a page. `part` is not kept. */
  addPage(part: SheetPart, facts: PageFacts): void {
    const content = this.stream('', part.content, true);
    const unit = userUnit(part);
    const side = (mm: number): string => points((mm * POINTS_PER_MM) / unit);
    const fonts = part.fonts.map(([id, glyphs]) => `/F${FONT_IDS.indexOf(id)} ${this.fontFor(id, glyphs)} 0 R`);
    const layers = part.layers.map(
      ([index, layer]) => `/L${index} ${this.layers.objectOf(layer, () => this.reserve())} 0 R`,
    );
    const pictures = part.pictures.map((picture, i) => `/P${i} ${this.foreignObject(picture)} 0 R`);
    const states = part.opacities.map((opacity) => `/G${opacity} ${this.opacityState(opacity)} 0 R`);
    const object = this.object(
      `<< /Type /Page /Parent ${this.pageTree} 0 R /MediaBox [0 0 ${side(part.widthMm)} ${side(part.heightMm)}]` +
        (unit > 1 ? ` /UserUnit ${unit}` : '') +
        ` /Contents ${content} 0 R /Resources <<` +
        (fonts.length ? ` /Font << ${fonts.join(' ')} >>` : '') +
        (pictures.length ? ` /XObject << ${pictures.join(' ')} >>` : '') +
        (states.length ? ` /ExtGState << ${states.join(' ')} >>` : '') +
        (layers.length ? ` /Properties << ${layers.join(' ')} >>` : '') +
        ' >> >>',
    );
    this.pages.push({ object, facts });
  }

  /** Writes what belongs to the file as a whole. The document takes no pages afterwards. Returns its length in bytes. */
  finish(): number {
    const { pages } = this;
    const kids = pages.map(({ object }) => `${object} 0 R`).join(' ');
    this.define(this.pageTree, `<< /Type /Pages /Count ${pages.length} /Kids [${kids}] >>`);
    for (const { object, body } of this.layers.groups()) this.define(object, body);
    for (const id of FONT_IDS) this.embed(id);
    const outline = this.outline();
    const xmp = this.stream('/Type /Metadata /Subtype /XML', ASCII.encode(metadata(this.facts)), false);
    const labels = pages.map(({ facts }, i) => `${i} << /P ${textString(facts.number)} >>`).join(' ');
    const catalog = this.object(
      `<< /Type /Catalog /Pages ${this.pageTree} 0 R /Outlines ${outline} 0 R /PageMode /UseOutlines` +
        ` /PageLabels << /Nums [${labels}] >> /Metadata ${xmp} 0 R /ViewerPreferences << /DisplayDocTitle true >>` +
        (this.layers.size ? ` /OCProperties ${this.layers.properties()}` : '') +
        ' >>',
    );
    const { title, author, producer, date } = this.facts;
    const info = this.object(
      `<< /Title ${textString(title)} /Creator ${textString(producer)} /Producer ${textString(producer)}` +
        (author ? ` /Author ${textString(author)}` : '') +
        (date ? ` /CreationDate ${dateString(date)} /ModDate ${dateString(date)}` : '') +
        ' >>',
    );
    this.trailer(catalog, info);
    return this.position;
  }

  private outline(): number {
    const root = this.reserve();
    const items = this.pages.map(() => this.reserve());
    items.forEach((item, i) => {
      const { object, facts } = this.pages[i]!;
      const title = textString([facts.number, facts.title].filter(Boolean).join('  '));
      const links = [i > 0 && `/Prev ${items[i - 1]} 0 R`, i + 1 < items.length && `/Next ${items[i + 1]} 0 R`];
      this.define(
        item,
        `<< /Title ${title} /Parent ${root} 0 R ${links.filter(Boolean).join(' ')} /Dest [${object} 0 R /Fit] >>`,
      );
    });
    const ends = items.length ? `/First ${items[0]} 0 R /Last ${items.at(-1)} 0 R /Count ${items.length}` : '';
    this.define(root, `<< /Type /Outlines ${ends} >>`);
    return root;
  }

  private fontFor(id: FontId, glyphs: readonly [number, number][]): number {
    let font = this.fonts.get(id);
    if (!font) {
      const numbers = {
        type0: this.reserve(),
        cidFont: this.reserve(),
        descriptor: this.reserve(),
        file: this.reserve(),
        toUnicode: this.reserve(),
      };
      this.fonts.set(id, (font = { numbers, glyphs: new Map() }));
    }
    for (const [glyph, codePoint] of glyphs) {
      const known = font.glyphs.get(glyph);
      if (known === undefined || codePoint < known) font.glyphs.set(glyph, codePoint);
    }
    return font.numbers.type0;
  }

  private embed(id: FontId): void {
    const font = this.fonts.get(id);
    if (!font) return;
    const face = this.tools.fonts[id];
    const glyphs = [...font.glyphs].sort((a, b) => a[0] - b[0]);
    const objects = fontObjects(face, glyphs, font.numbers);
    this.define(font.numbers.type0, objects.type0);
    this.define(font.numbers.cidFont, objects.cidFont);
    this.define(font.numbers.descriptor, objects.descriptor);
    const file = this.tools.subset(
      face,
      glyphs.map(([glyph]) => glyph),
    );
    this.stream(`/Length1 ${file.length}`, this.tools.deflate(file), true, font.numbers.file);
    this.stream('', this.tools.deflate(ASCII.encode(objects.toUnicode)), true, font.numbers.toUnicode);
  }

  /** Takes in objects from elsewhere; those known by their key already are not written again. */
  private foreignObject({ key, objects }: ForeignObjects): number {
    const known = this.foreign.get(key);
    if (known !== undefined) return known;
    const numbers = objects.map((object) =>
      'layer' in object ? this.layers.objectOf(object.layer, () => this.reserve()) : this.reserve(),
    );
    objects.forEach((object, i) => {
      if ('layer' in object) return;
      const body = withNumbers(object.body, numbers);
      if (object.stream) this.rawStream(body, object.stream, numbers[i]!);
      else this.define(numbers[i]!, body);
    });
    this.foreign.set(key, numbers[0]!);
    return numbers[0]!;
  }

  private opacityState(opacity: number): number {
    let object = this.opacities.get(opacity);
    if (object === undefined) {
      object = this.object(`<< /Type /ExtGState /CA ${opacity / 100} /ca ${opacity / 100} >>`);
      this.opacities.set(opacity, object);
    }
    return object;
  }

  private reserve(): number {
    return this.offsets.push(0) - 1;
  }

  private object(body: string): number {
    const number = this.reserve();
    this.define(number, body);
    return number;
  }

  private define(number: number, body: string): void {
    this.offsets[number] = this.position;
    this.write(`${number} 0 obj\n${body}\nendobj\n`);
  }

  private stream(entries: string, bytes: Uint8Array, deflated: boolean, number = this.reserve()): number {
    const filter = deflated ? ' /Filter /FlateDecode' : '';
    return this.rawStream(`<< ${entries}${filter}`, bytes, number);
  }

  /** Writes a stream whose dictionary lacks only its length and end. */
  private rawStream(open: string, bytes: Uint8Array, number: number): number {
    this.offsets[number] = this.position;
    this.write(`${number} 0 obj\n${open} /Length ${bytes.length} >>\nstream\n`);
    this.sink.write(bytes);
    this.position += bytes.length;
    this.write('\nendstream\nendobj\n');
    return number;
  }

  private trailer(catalog: number, info: number): void {
    const start = this.position;
    const entries = this.offsets
      .slice(1)
      .map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`)
      .join('');
    const { id } = this.facts;
    this.write(`xref\n0 ${this.offsets.length}\n0000000000 65535 f \n${entries}`);
    this.write(
      `trailer\n<< /Size ${this.offsets.length} /Root ${catalog} 0 R /Info ${info} 0 R /ID [<${id}> <${id}>] >>\nstartxref\n${start}\n%%EOF\n`,
    );
  }

  private write(text: string): void {
    const bytes = new Uint8Array(text.length);
    for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
    this.sink.write(bytes);
    this.position += bytes.length;
  }
}
