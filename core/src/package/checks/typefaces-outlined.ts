import { ownFontId } from '../../text/fonts';
import { nameOf, forEachPage, defineCheck } from '../finding';

/** Sheets with texts in a typeface whose licence forbids embedding. */
export const typefacesOutlined = defineCheck(
  {
    'text.outlined': ['note', 'texts in a typeface that may not be embedded, which PDFs have as outlines'],
  },
  forEachPage(({ lettering }, sheet, { project }) =>
    (project.typefaces ?? [])
      .filter(({ hash, embedding }) => embedding === 'none' && hash && lettering.own.includes(ownFontId(hash)))
      .map(({ name }) => {
        const sentence = `${nameOf(sheet)} has texts in ${name}, which may not be embedded; its PDF has them as outlines over text that can be searched.`;
        return { code: 'text.outlined' as const, sentence };
      }),
  ),
);
