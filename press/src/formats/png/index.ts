import { pictureFormat } from '../picture';

export const png = pictureFormat(
  (picture, { bilevel }) =>
    picture.png(bilevel ? { colours: 2, dither: 0, compressionLevel: 9 } : { compressionLevel: 6 }),
  true,
);
