import type { Gradient } from '../drawing/gradient';
import type { FontId } from '../text/fonts';
import type { UsedCodes } from './embed-font';

/** How texts are seen: as text, or as outlines or pictures of their glyphs over text that is not seen. */
export type TextMode = 'text' | 'outlines' | 'picture';

/** How a page is written, where it differs from the default. */
export interface ContentOptions {
  text?: TextMode;
  /** Resolution of texts written as pictures, dots per inch. */
  textDpi?: number;
}

/** A gradient that the content of a page names: `/S<n>` in its patterns, and `/M<n>` in its states where it fades. */
export type NamedGradient = [index: number, gradient: Gradient];

/** Name of the state without a mask. */
export const UNMASKED = 'M';

/** Content that is likely the same on other pages: marks without layers, in page units. */
export interface RepeatedContent {
  bytes: Uint8Array<ArrayBuffer>;
  fonts: FontId[];
}

/** Marks that are painted together, as a page's content of their own, with the resources of the page. */
export interface GroupContent {
  bytes: Uint8Array<ArrayBuffer>;
  /** True for a mask, which a state names too. */
  masks: boolean;
}

export interface PageContent {
  /**
   * The content stream, not yet deflated. Resources are named `/L<n>` (layer n), `/F<id>`, `/P<n>` (picture n),
   * `/R<n>` (repeated content n), `/X<n>` (group n) and, as states, `/K<n>` (masked by group n).
   */
  bytes: Uint8Array<ArrayBuffer>;
  repeated: RepeatedContent[];
  groups: GroupContent[];
  fonts: Map<FontId, UsedCodes>;
  /** Indices of the layers that have marks. */
  layers: number[];
  /** Opacities other than 100, per cent: graphics states `/G<n>`. */
  opacities: number[];
  /** Gradients, by the number of their pens. */
  gradients: NamedGradient[];
}
