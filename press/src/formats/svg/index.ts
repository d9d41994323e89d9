import sharp from 'sharp';
import { MAX_PICTURE_PIXELS, ownFontsOn, svgOf, type FontId, type FontSet, type Page } from '@folvex/core';
import { fontsWith } from '../../typefaces/own';
import { pagePictures, type PictureFile } from '../page-pictures';
import type { FormatWriter } from '../format';

const MM_PER_INCH = 25.4;
/** The resolution at which an SVG is measured, dots per inch. */
const MEASURED_DPI = 72;
/** The reader gives whole pixels. */
const TOLERANCE_MM = 0.4;

/** SVG at true size; measured again by librsvg. */
export const svg: FormatWriter = {
  write: async ({ sheet, task: { recipe, sheet: facts, typefaces }, dpi }) => {
    const outlines = recipe.text === 'outlines' || recipe.text === 'picture';
    const fonts = fontsWith(typefaces);
    const text = svgOf(sheet.printed, {
      pictures: await pagePictures(sheet, recipe, recipe.pictureDpi ?? dpi, dataUrl),
      title: `${facts.number} ${facts.title}`.trim(),
      ...(outlines ? { outlines: fonts } : { families: familiesOn(sheet.printed, fonts) }),
    });
    return Buffer.from(text);
  },

  verify: async ({ path, width, height }) => {
    const options = { density: MEASURED_DPI, limitInputPixels: MAX_PICTURE_PIXELS, unlimited: true };
    const facts = await sharp(path, options).metadata();
    const mm = (pixels: number): number => (pixels / MEASURED_DPI) * MM_PER_INCH;
    const [foundWidth, foundHeight] = [mm(facts.width), mm(facts.height)];
    if (Math.max(Math.abs(foundWidth - width), Math.abs(foundHeight - height)) < TOLERANCE_MM) return [];
    return [`It measures ${foundWidth.toFixed(1)} × ${foundHeight.toFixed(1)} mm, not ${width} × ${height}.`];
  },
};

/** Family names of the office's own typefaces on a page. */
function familiesOn(page: Page, fonts: FontSet): ReadonlyMap<FontId, string> {
  return new Map(ownFontsOn(page).map((id) => [id, fonts.face(id).family]));
}

/** A picture as data in the file itself. */
function dataUrl({ type, bytes }: PictureFile): string {
  return `data:${type};base64,${Buffer.from(bytes).toString('base64')}`;
}
