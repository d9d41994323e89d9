import { pictureFormat } from '../picture';

const MM_PER_INCH = 25.4;

export const tiff = pictureFormat((picture, { bilevel, dpi }) => {
  const perMm = dpi / MM_PER_INCH;
  const compression = bilevel
    ? { bitdepth: 1 as const, compression: 'ccittfax4' as const }
    : { compression: 'deflate' as const, predictor: 'horizontal' as const };
  return picture.tiff({ xres: perMm, yres: perMm, resolutionUnit: 'inch', ...compression });
}, true);
