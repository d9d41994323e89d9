import sharp, { type Sharp } from 'sharp';
import { MAX_PICTURE_PIXELS, picturePixels, type Recipe } from '@folvex/core';
import { channelsOf, type Tones } from './paint-picture';
import type { FormatWriter, VerifyTask, WriteTask } from './format';

/** The lightness from which a pixel is white where there are only two tones. */
const WHITE_THRESHOLD = 128;

/** Encodes a picture in a format; `bilevel` where it has two tones. */
export type Encode = (picture: Sharp, options: { bilevel: boolean; dpi: number; recipe: Recipe }) => Sharp;

/** A format of pictures that state their resolution; read again by libvips. `twoTones` where it knows such pictures. */
export function pictureFormat(encode: Encode, twoTones: boolean): FormatWriter {
  return {
    write: async (task) => {
      const { recipe } = task.task;
      const tones = tonesOf(recipe, twoTones);
      const bilevel = tones === 'two';
      return encode(await pictureOf(task, tones), { bilevel, dpi: task.dpi, recipe }).toBuffer();
    },
    verify: verifyPicture,
  };
}

function tonesOf({ colour, pictureTone }: Recipe, twoTones: boolean): Tones {
  if (pictureTone === 'bilevel' && twoTones) return 'two';
  return colour === 'full' ? 'colour' : 'grey';
}

async function pictureOf({ paint, dpi }: WriteTask, tones: Tones): Promise<Sharp> {
  const { rows, pixels } = await paint(tones);
  const raw = { ...pixels, channels: channelsOf(tones) };
  const picture = sharp(rows, { raw, limitInputPixels: MAX_PICTURE_PIXELS }).withDensity(dpi);
  const toned = tones === 'colour' ? picture : picture.toColourspace('b-w');
  return tones === 'two' ? toned.threshold(WHITE_THRESHOLD) : toned;
}

async function verifyPicture({ path, width, height, dpi, pixels }: VerifyTask): Promise<string[]> {
  const facts = await sharp(path, { limitInputPixels: MAX_PICTURE_PIXELS, unlimited: true }).metadata();
  const wanted = pixels ?? picturePixels({ width, height }, dpi);
  const differences: string[] = [];
  if (facts.width !== wanted.width || facts.height !== wanted.height) {
    differences.push(`It has ${facts.width} × ${facts.height} pixels, not ${wanted.width} × ${wanted.height}.`);
  }
  if (!pixels && Math.round(facts.density ?? 0) !== dpi) {
    differences.push(`It says ${facts.density ?? 'no'} dots per inch, not ${dpi}.`);
  }
  return differences;
}
