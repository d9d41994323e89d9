import type { ValuesOf } from '../settings/descriptor';
import type { EXTRA_FORMAT_OPTIONS } from './options';

interface FormatFacts {
  /** For people, and for the folder of its files. */
  name: string;
  /** How file names end. */
  extension: string;
  mediaType: string;
  content: 'vector' | 'picture';
  /** Whether its files get noticeably smaller in an archive. */
  compressible: boolean;
}

/**
 * Every format that a run writes: the one list from which come choices in the package, the job file, file names and
 * downloads. How each is written and verified is in `press/src/formats`, which does not compile unless it has all of these.
 */
export const FORMATS = {
  pdf: { name: 'PDF', extension: '.pdf', mediaType: 'application/pdf', content: 'vector', compressible: false },
  dxf: { name: 'DXF', extension: '.dxf', mediaType: 'image/vnd.dxf', content: 'vector', compressible: true },
  svg: { name: 'SVG', extension: '.svg', mediaType: 'image/svg+xml', content: 'vector', compressible: true },
  png: { name: 'PNG', extension: '.png', mediaType: 'image/png', content: 'picture', compressible: false },
  tiff: { name: 'TIFF', extension: '.tif', mediaType: 'image/tiff', content: 'picture', compressible: false },
  jpeg: { name: 'JPEG', extension: '.jpg', mediaType: 'image/jpeg', content: 'picture', compressible: false },
} as const satisfies Record<string, FormatFacts>;

export type Format = keyof typeof FORMATS;
/** A format that sheets are written in besides PDF, a file a sheet. */
export type ExtraFormat = Exclude<Format, 'pdf'>;

export const EXTRA_FORMATS = (Object.keys(FORMATS) as Format[]).filter(
  (format): format is ExtraFormat => format !== 'pdf',
);

/** True where a format holds pixels. */
export function isPicture(format: Format): boolean {
  return FORMATS[format].content === 'picture';
}

/** How the files of other formats are written. */
export type FormatOptions = Omit<ValuesOf<typeof EXTRA_FORMAT_OPTIONS>, 'apart'>;

/** Those of the options that the files of a format depend on. */
export function optionsFor(format: ExtraFormat, { dpi, ...dxf }: FormatOptions): FormatOptions {
  return format === 'dxf' ? dxf : isPicture(format) || format === 'svg' ? { ...(dpi !== undefined && { dpi }) } : {};
}

/** What a package writes besides PDF. */
export interface ExtraFormats extends ValuesOf<typeof EXTRA_FORMAT_OPTIONS> {
  formats: ExtraFormat[];
}
