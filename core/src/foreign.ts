/**
 * What reads and embeds files of formats other than DXF. Apart from the rest, so that the interface, which never reads
 * files, does not carry the libraries that this takes.
 */
export * from './read/pdf/open';
export * from './read/pdf/pdf';
export * from './pdf/embed-page';
export * from './read/svg/svg';
export * from './relink/pdf-links';
