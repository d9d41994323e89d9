import { isOwnFont, type FontId } from '../text/fonts';
import type { Page } from './page';

/** The typefaces of the office's own that texts of a page are set in. */
export function ownFontsOn({ texts }: Page): FontId[] {
  return [...new Set(texts.map(({ font }) => font))].filter(isOwnFont);
}
