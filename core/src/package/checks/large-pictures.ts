import { besideOf, DEFAULT_DPI, isPicture, picturePixels, tooLarge } from '../beside';
import { paperOfChoice } from '../../paper/sizes';
import { nameOf, ofEachSheet, type Check } from './finding';
import { printedOn } from './printed';

/** Sheets whose pictures beside PDF would be larger than pictures are made. */
export const largePictures: Check = ofEachSheet((sheet, input) => {
  const { package: pack, project, pages } = input;
  if (!besideOf(pack, sheet.id).some(isPicture)) return [];
  const own = pages?.get(sheet.id)?.paper ?? (sheet.paper && paperOfChoice(sheet.paper, project.papers));
  if (!own) return [];
  const pixels = picturePixels(printedOn(input, sheet, own).paper, pack.beside?.dpi ?? DEFAULT_DPI);
  const sentence = tooLarge(nameOf(sheet), pixels);
  return sentence ? [{ code: 'picture.too-large', severity: 'stop', sentence }] : [];
});
