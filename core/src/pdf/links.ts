import { points, textString } from './syntax';

/** How links look: not at all, with a line below, or tinted. */
export type LinkLook = 'none' | 'underlined' | 'tinted';

/** Where a link leads. */
export type LinkTarget =
  | { kind: 'page'; object: number }
  /** A page, counted from 0, of another file, named relative to this one. */
  | { kind: 'file'; path: string; page: number }
  | { kind: 'address'; url: string };

/** sRGB parts of the colour of links that are seen. */
const COLOUR = '0.12 0.32 0.62';
const LINE_POINTS = 0.5;

/** The annotation of a link over a box in points (ISO 32000-2, 12.5.6.5); `tint` is the object that tints it. */
export function linkAnnotation(box: readonly number[], target: LinkTarget, look: LinkLook, tint?: number): string {
  const rectangle = box.map(points).join(' ');
  const seen =
    look === 'underlined'
      ? `/Border [0 0 ${LINE_POINTS}] /BS << /W ${LINE_POINTS} /S /U >> /C [${COLOUR}]`
      : '/Border [0 0 0]';
  const appearance = tint === undefined ? '' : ` /AP << /N ${tint} 0 R >>`;
  // 4: printed with the page, as what can be seen of it belongs to the page.
  return `<< /Type /Annot /Subtype /Link /Rect [${rectangle}] /F 4 ${seen}${appearance} ${actionOf(target)} >>`;
}

/** Entries and content of the form that tints a box of a size in points. */
export function tintForm(width: number, height: number): { entries: string; content: string } {
  const size = `0 0 ${points(width)} ${points(height)}`;
  return {
    entries: `/Type /XObject /Subtype /Form /BBox [${size}] /Resources << /ExtGState << /T << /Type /ExtGState /ca 0.18 >> >> >>`,
    content: `/T gs ${COLOUR} rg ${size} re f`,
  };
}

function actionOf(target: LinkTarget): string {
  switch (target.kind) {
    case 'page':
      return `/Dest [${target.object} 0 R /Fit]`;
    case 'file': {
      // ISO 32000-2, 7.11.2: parts of a path are separated by slashes on every system.
      const file = textString(target.path);
      return `/A << /S /GoToR /F << /Type /Filespec /F ${file} /UF ${file} >> /D [${target.page} /Fit] /NewWindow false >>`;
    }
    default:
      return `/A << /S /URI /URI (${asciiAddress(target.url)}) >>`;
  }
}

/** An address in ASCII (RFC 3986, 2.5), its brackets and backslashes as strings of PDF have them. */
function asciiAddress(url: string): string {
  const escaped = url.toWellFormed().replace(/[\\()]/g, '\\$&');
  return escaped.replace(/[^\x20-\x7e]/gu, encodeURIComponent);
}
