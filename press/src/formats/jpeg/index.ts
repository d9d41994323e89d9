import { pictureFormat } from '../picture';

const DEFAULT_QUALITY = 85;

export const jpeg = pictureFormat(
  (picture, { recipe }) =>
    picture.jpeg({
      quality: recipe.pictureQuality ?? DEFAULT_QUALITY,
      chromaSubsampling: '4:4:4',
      // Optimised code tables would keep the whole picture in memory a second time: 1.3 GB instead of 0.5 GB for an A1 sheet.
      optimiseCoding: false,
    }),
  false,
);
