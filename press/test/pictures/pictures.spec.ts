import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { kindOf, PdfDocument, readPng, unpackParts, type Sheet, type View } from '@folvex/core';
import { makeSheet, pdfTools, readDrawing, sha256 } from '../../src/index';
import { resamplePictures, type PictureSettings } from '../../src/pictures/resample-pictures';
import { drawingOf, ownFolder, publish, SHEET, tool } from '../support/published';
import { makePart } from '../support/make-part';

const folder = ownFolder();

/** A picture that no two corners of are alike. */
function pixels(width: number, height: number, channels: 1 | 3 | 4): Buffer {
  const data = Buffer.alloc(width * height * channels);
  for (let i = 0; i < data.length; i++) data[i] = ((i * 7919) >> 3) % 251;
  return data;
}

function raw(width: number, height: number, channels: 1 | 3 | 4) {
  return sharp(pixels(width, height, channels), { raw: { width, height, channels } });
}

async function published(bytes: Uint8Array, name: string, layout = 'Page 1'): Promise<string> {
  return publish(join(folder, `${name}.pdf`), [{ drawing: await drawingOf(bytes, name), layout }]);
}

/** Pixels of the n-th picture in a PDF, taken out by poppler. */
async function takenOut(pdf: string, n = 0): Promise<{ data: Buffer; width: number; height: number }> {
  tool('pdfimages', '-png', pdf, `${pdf}-out`);
  const picture = sharp(readFileSync(`${pdf}-out-${String(n).padStart(3, '0')}.png`));
  const { data, info } = await picture.raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
}

describe('pictures', () => {
  it('JPEG data goes through untouched', async () => {
    const jpeg = await raw(64, 48, 3).jpeg({ quality: 70 }).withMetadata({ density: 100 }).toBuffer();
    const pdf = await published(jpeg, 'photo.jpg');
    tool('pdfimages', '-all', pdf, `${pdf}-all`);
    expect(sha256(readFileSync(`${pdf}-all-000.jpg`))).toBe(sha256(jpeg));
  });

  it('are as large as their resolution says: 254 dots per inch make 0.1 mm', async () => {
    for (const [name, bytes] of [
      ['a.jpg', await raw(300, 200, 3).jpeg().withMetadata({ density: 254 }).toBuffer()],
      ['a.png', await raw(300, 200, 3).png().withMetadata({ density: 254 }).toBuffer()],
      ['a.tif', await raw(300, 200, 3).tiff().withMetadata({ density: 254 }).toBuffer()],
    ] as const) {
      const { spaces } = await drawingOf(bytes, name);
      expect(spaces[1]!.plot!.paper.width).toBeCloseTo(30, 2);
      expect(spaces[1]!.plot!.paper.height).toBeCloseTo(20, 2);
    }
  });

  it.each([
    ['grey', 1],
    ['colour', 3],
  ] as const)('PNG in %s comes out pixel by pixel', async (_what, channels) => {
    const bytes = await raw(37, 23, channels).png().toBuffer();
    const { data, width, height } = await takenOut(await published(bytes, `png-${channels}.png`));
    expect([width, height]).toEqual([37, 23]);
    const wanted = pixels(37, 23, channels);
    const got = channels === 1 ? data.filter((_, i) => i % (data.length / (37 * 23)) === 0) : data;
    expect(Buffer.compare(got, wanted)).toBe(0);
  });

  it('an interlaced PNG and one of 16 bits come through as well', async () => {
    const interlaced = await raw(37, 23, 3).png({ progressive: true }).toBuffer();
    expect(Buffer.compare((await takenOut(await published(interlaced, 'i.png'))).data, pixels(37, 23, 3))).toBe(0);
    const deep = await raw(37, 23, 3).toColourspace('rgb16').png().toBuffer();
    expect((await takenOut(await published(deep, 'deep.png'))).width).toBe(37);
  });

  it('a see-through PNG keeps its transparency apart', async () => {
    const pdf = await published(await raw(20, 10, 4).png().toBuffer(), 'alpha.png');
    expect(tool('pdfimages', '-list', pdf)).toMatch(/smask +20 +10 +gray/);
    const { data } = await takenOut(pdf, 1);
    const alpha = pixels(20, 10, 4).filter((_, i) => i % 4 === 3);
    const step = data.length / 200;
    expect([...data].filter((_, i) => i % step === 0)).toEqual([...alpha]);
  });

  it('a TIFF scan of one bit, compressed after ITU-T T.6 (G4), stays one bit', async () => {
    const scan = await raw(400, 300, 1)
      .threshold(125)
      .toColourspace('b-w')
      .tiff({ compression: 'ccittfax4', bitdepth: 1, xres: 8, yres: 8 })
      .toBuffer();
    expect(kindOf(scan)).toBe('tiff');
    const pdf = await published(scan, 'scan.tif');
    expect(tool('pdfimages', '-list', pdf)).toMatch(/image +400 +300 +\w+ +1 +1 /);
    const { data } = await takenOut(pdf);
    const wanted = [...pixels(400, 300, 1)].map((value) => (value >= 125 ? 255 : 0));
    const step = data.length / (400 * 300);
    expect([...data].filter((_, i) => i % step === 0)).toEqual(wanted);
  });

  it('each page of a TIFF is a layout', async () => {
    const stack = sharp(pixels(40, 60, 3), { raw: { width: 40, height: 60, channels: 3, pageHeight: 20 } });
    const tiff = await stack.tiff({ compression: 'lzw' }).toBuffer();
    const { spaces } = await drawingOf(tiff, 'three.tif');
    expect(spaces.map(({ name }) => name)).toEqual(['model', 'Page 1', 'Page 2', 'Page 3']);
    const { data } = await takenOut(await published(tiff, 'three.tif', 'Page 2'));
    expect(Buffer.compare(data, pixels(40, 60, 3).subarray(40 * 20 * 3, 40 * 40 * 3))).toBe(0);
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('EXIF orientation %i is followed', async (orientation) => {
    const upright = Buffer.from([0, 0, 0, 90, 90, 90, 180, 180, 180, 240, 240, 240, 130, 0, 0, 0, 130, 0]);
    const big = await sharp(upright, { raw: { width: 3, height: 2, channels: 3 } })
      .resize(60, 40, { kernel: 'nearest' })
      .png()
      .toBuffer();
    const bytes = await sharp(big)
      .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
      .withMetadata({ orientation, density: 72 })
      .toBuffer();
    const pdf = await published(bytes, `exif-${orientation}.jpg`);
    tool('pdftoppm', '-png', '-r', '72', '-singlefile', pdf, `${pdf}-seen`);
    const seen = await sharp(readFileSync(`${pdf}-seen.png`))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    // sharp turns by EXIF on its own account.
    const wanted = await sharp(bytes).rotate().removeAlpha().raw().toBuffer({ resolveWithObject: true });
    expect([seen.info.width, seen.info.height]).toEqual([wanted.info.width, wanted.info.height]);
    const off = seen.data.filter((value, i) => Math.abs(value - wanted.data[i]!) > 40).length / seen.data.length;
    expect(off).toBeLessThan(0.05);
  });

  it('that declare 60 000 × 60 000 pixels are refused without being opened', async () => {
    const png = await raw(4, 4, 3).png().toBuffer();
    png.writeUInt32BE(60_000, 16);
    png.writeUInt32BE(60_000, 20);
    expect(await readDrawing(png, 'huge.png')).toMatchObject({
      ok: false,
      problem: { code: 'picture.too-large', sentence: expect.stringContaining('60000 × 60000') as string },
    });
    const jpeg = await raw(16, 16, 3).jpeg().toBuffer();
    const frame = jpeg.indexOf(Buffer.from([0xff, 0xc0]));
    jpeg.writeUInt16BE(60_000, frame + 5);
    jpeg.writeUInt16BE(60_000, frame + 7);
    expect(await readDrawing(jpeg, 'huge.jpg')).toMatchObject({ ok: false, problem: { code: 'picture.too-large' } });
    const tiff = await raw(16, 16, 3).tiff().toBuffer();
    expect(await readDrawing(enlarged(tiff, 60_000), 'huge.tif')).toMatchObject({ ok: false });
  });

  it.each(['png', 'jpg', 'tif'])('a damaged %s is refused in one sentence', async (kind) => {
    const make = { png: raw(9, 9, 3).png(), jpg: raw(9, 9, 3).jpeg(), tif: raw(9, 9, 3).tiff() }[kind]!;
    const bytes = (await make.toBuffer()).subarray(0, 20);
    expect(await readDrawing(bytes, `cut.${kind}`)).toMatchObject({ ok: false, problem: { code: 'picture.damaged' } });
  });
});

/** A little-endian TIFF whose directory says it is so many pixels wide and high (tags 256 and 257). */
function enlarged(tiff: Buffer, size: number): Buffer {
  const bytes = Buffer.from(tiff);
  const start = bytes.readUInt32LE(4);
  for (let i = 0; i < bytes.readUInt16LE(start); i++) {
    const at = start + 2 + 12 * i;
    const tag = bytes.readUInt16LE(at);
    if (tag !== 256 && tag !== 257) continue;
    bytes.writeUInt16LE(4, at + 2);
    bytes.writeUInt32LE(size, at + 8);
  }
  return bytes;
}

describe('pictures as a recipe wishes them', () => {
  const photo = () => raw(600, 400, 3).jpeg({ quality: 95 }).toBuffer();
  const refit = async (bytes: Uint8Array, kind: 'jpeg' | 'png', size: [number, number], wish: PictureSettings) =>
    resamplePictures({ kind, bytes, page: 1 }, size, wish);
  const facts = async (bytes: Uint8Array) => sharp(bytes).metadata();

  it('have at most the dots per inch asked for, and are never sampled up', async () => {
    const bytes = await photo();
    // 600 pixels on 50.8 mm are 300 dpi.
    const made = await refit(bytes, 'jpeg', [50.8, 33.867], { dpi: 150, colour: 'full' });
    expect(await facts(made.bytes)).toMatchObject({ width: 300, height: 200, format: 'jpeg' });
    expect((await refit(bytes, 'jpeg', [50.8, 33.867], { dpi: 600, colour: 'full' })).bytes).toBe(bytes);
    // A tenth above is left alone: it would only be blurred.
    expect((await refit(bytes, 'jpeg', [50.8, 33.867], { dpi: 280, colour: 'full' })).bytes).toBe(bytes);
  });

  it('are greys of the same luminance where the recipe prints greys', async () => {
    const colour = { r: 140, g: 120, b: 83 };
    const png = await sharp({ create: { width: 8, height: 8, channels: 3, background: colour } })
      .png()
      .toBuffer();
    const made = await refit(png, 'png', [10, 10], { colour: 'greys' });
    expect(readPng(made.bytes)).toMatchObject({ colourType: 0, bitDepth: 8 });
    const data = await sharp(made.bytes).raw().toBuffer();
    const linear = (part: number): number =>
      part / 255 <= 0.04045 ? part / 255 / 12.92 : ((part / 255 + 0.055) / 1.055) ** 2.4;
    // ITU-R BT.709 on linear components.
    const wanted = 0.2126 * linear(colour.r) + 0.7152 * linear(colour.g) + 0.0722 * linear(colour.b);
    expect(linear(data[0]!)).toBeCloseTo(wanted, 1);
  });

  it('have one bit a pixel in black and white, what is see-through as paper', async () => {
    const bytes = new Uint8Array(
      await sharp({ create: { width: 8, height: 8, channels: 4, background: { r: 200, g: 200, b: 200, alpha: 1 } } })
        .composite([
          {
            input: await sharp({ create: { width: 4, height: 8, channels: 4, background: '#303030' } })
              .png()
              .toBuffer(),
            left: 0,
            top: 0,
          },
        ])
        .png()
        .toBuffer(),
    );
    const made = await refit(bytes, 'png', [10, 10], { bilevel: true, colour: 'full' });
    expect(await sharp(made.bytes).metadata()).toMatchObject({ bitsPerSample: 1 });
    const { data } = await sharp(made.bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([...data.subarray(0, 8)]).toEqual([0, 0, 0, 0, 255, 255, 255, 255]);
  });

  it('become JPEG where a quality is wished, unless they are see-through', async () => {
    const plain = await raw(64, 64, 3).png().toBuffer();
    const clear = await raw(64, 64, 4).png().toBuffer();
    expect((await refit(plain, 'png', [10, 10], { quality: 60, colour: 'full' })).kind).toBe('jpeg');
    expect((await refit(clear, 'png', [10, 10], { quality: 60, colour: 'full' })).bytes).toBe(clear);
  });

  /** Width, height and resolution of the pictures of a published sheet, as poppler lists them. */
  async function listed(sheet: Partial<Sheet>): Promise<string[][]> {
    const bytes = await raw(1200, 800, 3).jpeg().withMetadata({ density: 600 }).toBuffer();
    const path = join(folder, 'photo.src.jpg');
    writeFileSync(path, bytes);
    const made = await makePart({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: { ...SHEET, ...sheet },
      recipe: { id: '', name: '', colour: 'full', layers: 'none', pictureDpi: 150 },
      drawings: [{ id: 'd', name: 'photo.jpg', path, hash: sha256(bytes), unit: 'mm' }],
      folder,
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    const chunks: Uint8Array[] = [];
    const about = { title: 't', author: '', producer: 'Folvex', date: '', id: 'AA'.repeat(16) };
    const document = new PdfDocument({ write: (some) => chunks.push(some.slice()) }, await pdfTools(), about);
    for (const part of unpackParts(readFileSync(made.value.temporary)))
      document.addPage(part, { number: '1', title: '' });
    document.finish();
    const pdf = join(folder, 'small.pdf');
    writeFileSync(pdf, Buffer.concat(chunks));
    const [, , ...lines] = tool('pdfimages', '-list', pdf).trim().split('\n');
    return lines.map((line) => {
      const columns = line.trim().split(/\s+/);
      return [columns[3]!, columns[4]!, columns[12]!];
    });
  }

  it('stand in the file at the resolution of the recipe, as poppler lists them', async () => {
    expect(await listed({ from: { drawing: 'd', layout: 'Page 1' } })).toEqual([['300', '200', '150']]);
  });

  it('have a resolution of their own in a view that says so, the others that of the recipe', async () => {
    const view = { drawing: 'd', space: 'model', window: 'extents', scale: '1:1', label: '' } as const;
    const views: View[] = [
      { ...view, id: 'fine', layersOff: [], at: [20, 20], pictureDpi: 300 },
      { ...view, id: 'coarse', layersOff: [], at: [100, 20] },
    ];
    const found = await listed({ views });
    expect(found.map(([, , dpi]) => dpi).sort()).toEqual(['150', '300']);
  });

  it('have that resolution of a view in SVG too: pixels for the 50.8 mm that a picture is wide', async () => {
    const path = join(folder, 'wide.jpg');
    writeFileSync(path, await raw(1200, 800, 3).jpeg().withMetadata({ density: 600 }).toBuffer());
    const view = { drawing: 'd', space: 'model', window: 'extents', scale: '1:1', label: '', at: [20, 20] } as const;
    const pictureWidth = async (pictureDpi: number | undefined): Promise<number | undefined> => {
      const sheet: Sheet = { ...SHEET, views: [{ ...view, id: 'v', layersOff: [], at: [20, 20], pictureDpi }] };
      const made = await makeSheet({
        ...{ project: { number: '', name: '', client: '', fields: {} }, sheet, part: false, formats: ['svg'], folder },
        drawings: [{ id: 'd', name: 'wide.jpg', path, hash: sha256(readFileSync(path)) }],
        recipe: { id: '', name: '', colour: 'full', layers: 'none', pictureDpi: 150 },
        options: {},
      });
      if (!made.ok) throw new Error(made.problem.sentence);
      const svg = readFileSync(made.value.extraFormats[0]!.temporary, 'utf8');
      const [, data] = /href="data:image\/\w+;base64,([^"]+)"/.exec(svg)!;
      return (await sharp(Buffer.from(data!, 'base64')).metadata()).width;
    };
    expect(await pictureWidth(undefined)).toBe(300);
    expect(await pictureWidth(300)).toBe(600);
  });
});
