import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { STANDARD_RECIPE, type FormatOptions, type View } from '@folvex/core';
import { makeSheet, sha256 } from '../../src/index';
import { verifyFormat } from '../../src/formats';
import { ownFolder, SHEET, tool } from '../support/published';

const folder = ownFolder();

/** What ezdxf finds of pictures: their files and pixels, where they lie, and their outlines in pixels. */
const PICTURES_SCRIPT = `
import sys, json
from ezdxf import recover
doc, auditor = recover.readfile(sys.argv[1])
images = []
for e in doc.modelspace().query('IMAGE'):
    d = e.image_def
    u, v, size = e.dxf.u_pixel, e.dxf.v_pixel, e.dxf.image_size
    end = e.dxf.insert + u * size.x + v * size.y
    images.append(dict(file=d.dxf.filename, pixels=[size.x, size.y], defined=[d.dxf.image_size.x, d.dxf.image_size.y],
        box=[e.dxf.insert.x, e.dxf.insert.y, end.x, end.y], fade=e.dxf.fade, clipped=e.dxf.clipping,
        outline=[[p.x, p.y] for p in e.boundary_path_wcs()]))
print(json.dumps(dict(errors=[str(x.message) for x in [*auditor.errors, *auditor.fixes]], images=images)))
`;

interface FoundPictures {
  errors: string[];
  images: {
    file: string;
    pixels: number[];
    defined: number[];
    box: number[];
    fade: number;
    clipped: number;
    outline: [number, number][];
  }[];
}

describe('pictures of DXF as files of their own', () => {
  const view: View = {
    ...{ id: 'p', drawing: 'd', space: 'model', window: 'extents', at: [20, 20] },
    ...{ scale: '1:1', layersOff: [], label: '' },
  };

  /** A photo of 300 × 200 pixels at 150 dots to the inch: 50.8 × 33.87 mm. */
  async function photo(options: FormatOptions, more: Partial<View> = {}) {
    const path = join(folder, 'Quay wall.png');
    const noise = Buffer.from(Array.from({ length: 300 * 200 * 3 }, (_, i) => (i * 31) % 251));
    const png = sharp(noise, { raw: { width: 300, height: 200, channels: 3 } }).withDensity(150);
    writeFileSync(path, await png.png().toBuffer());
    const made = await makeSheet({
      project: { number: '', name: '', client: '', fields: {} },
      sheet: { ...SHEET, paper: { name: 'A3', orientation: 'landscape' }, views: [{ ...view, ...more }] },
      recipe: STANDARD_RECIPE,
      drawings: [{ id: 'd', name: 'Quay wall.png', path, hash: sha256(readFileSync(path)), unit: 'mm' }],
      ...{ part: false, formats: ['dxf'] as const, options, folder },
    });
    if (!made.ok) throw new Error(made.problem.sentence);
    const [file] = made.value.extraFormats;
    const facts = { format: 'dxf', path: file!.temporary, width: 420, height: 297, options } as const;
    expect((await verifyFormat(facts)).differences).toEqual([]);
    const found = JSON.parse(tool('/usr/bin/python3', '-c', PICTURES_SCRIPT, file!.temporary)) as FoundPictures;
    return { file: file!, found };
  }

  it('are where they are on the sheet, and the files hold them', async () => {
    const { file, found } = await photo({ dxfPictures: 'files' });
    expect(found.errors).toEqual([]);
    const [linked] = file.pictures!;
    expect(linked).toMatchObject({
      name: expect.stringMatching(/^Quay wall-[0-9a-f]{8}\.png$/),
      width: 300,
      height: 200,
    });
    expect(await sharp(linked!.temporary).metadata()).toMatchObject({ format: 'png', width: 300, height: 200 });
    const [image] = found.images;
    expect(image).toMatchObject({ file: linked!.name, pixels: [300, 200], defined: [300, 200], fade: 0, clipped: 0 });
    const [width, height] = [(300 / 150) * 25.4, (200 / 150) * 25.4];
    image!.box.forEach((value, i) => expect(value).toBeCloseTo(20 + [0, 0, width, height][i]!, 2));
    const again = {
      path: linked!.temporary,
      format: 'png',
      width: 300,
      height: 200,
      pixels: { width: 300, height: 200 },
    } as const;
    expect((await verifyFormat(again)).differences).toEqual([]);
    expect((await verifyFormat({ ...again, pixels: { width: 301, height: 200 } })).differences).toHaveLength(1);
  });

  it('are clipped as their view clips them', async () => {
    const { found } = await photo({ dxfPictures: 'files' }, { window: [10, 5, 40, 25] });
    const [image] = found.images;
    const [xs, ys] = [0, 1].map((axis) => image!.outline.map((point) => point[axis]!));
    expect(image!.clipped).toBe(1);
    // The window's corner lies at the view's place; the picture's own corner is outside it.
    const box = [Math.min(...xs!), Math.min(...ys!), Math.max(...xs!), Math.max(...ys!)];
    box.forEach((value, i) => expect(value).toBeCloseTo([20, 20, 50, 40][i]!, 1));
    expect(image!.box[0]).toBeCloseTo(10, 2);
  });

  it('are outlines where no files are asked for, and in release 12', async () => {
    for (const options of [{}, { dxfPictures: 'files', dxfVersion: 'R12' }] as const) {
      const { file, found } = await photo(options);
      expect([file.pictures, found.images]).toEqual([undefined, []]);
    }
  });

  it('have their true size in a drawing of true size', async () => {
    const { found } = await photo({ dxfPictures: 'files', dxfSize: 'sheet' }, { scale: '1:10' });
    const [x0, , x1] = found.images[0]!.box;
    expect(x1! - x0!).toBeCloseTo(50.8, 2);
  });
});
