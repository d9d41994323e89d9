import { besideOf, DEFAULT_DPI, isPicture, MOST_PICTURE_PIXELS, picturePixels } from '../beside';
import { paperOfChoice } from '../../paper/sizes';
import { nameOf, ofEachSheet, type Check } from './finding';
import { printedOn } from './printed';

/** Sheets whose pictures beside PDF would be larger than pictures are made. */
export const largePictures: Check = ofEachSheet((sheet, input) => {
  const { package: pack, project, pages } = input;
  if (!besideOf(pack, sheet.id).some(isPicture)) return [];
  const own = pages?.get(sheet.id)?.paper ?? (sheet.paper && paperOfChoice(sheet.paper, project.papers));
  if (!own) return [];
  const { width, height } = picturePixels(printedOn(input, sheet, own).paper, pack.beside?.dpi ?? DEFAULT_DPI);
  if (width * height <= MOST_PICTURE_PIXELS) return [];
  const most = MOST_PICTURE_PIXELS / 1e6;
  const sentence = `${nameOf(sheet)} would be a picture of ${width} × ${height} pixels, more than the ${most} million that are made; choose fewer dots to the inch.`;
  return [{ code: 'picture.too-large', severity: 'stop', sentence }];
});
