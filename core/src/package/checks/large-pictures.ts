import { extraFormatsOf, DEFAULT_DPI, picturePixels, tooLarge } from '../extra-formats';
import { isPicture } from '../formats';
import { paperOfChoice } from '../../paper/sizes';
import { nameOf, forEachSheet, defineCheck } from '../finding';
import { printedPaper } from '../printed-paper';

/** Sheets whose PNG or TIFF would exceed the largest picture size. */
export const largePictures = defineCheck(
  {
    'picture.too-large': ['stop', 'a sheet whose picture would have more than 200 million pixels'],
  },
  forEachSheet((sheet, input) => {
    const { package: pack, project, pages } = input;
    if (!extraFormatsOf(pack, sheet.id).some(isPicture)) return [];
    const own = pages?.get(sheet.id)?.paper ?? (sheet.paper && paperOfChoice(sheet.paper, project.papers));
    if (!own) return [];
    const pixels = picturePixels(printedPaper(input, sheet, own).paper, pack.extraFormats?.dpi ?? DEFAULT_DPI);
    const sentence = tooLarge(nameOf(sheet), pixels);
    return sentence ? [{ code: 'picture.too-large', sentence }] : [];
  }),
);
