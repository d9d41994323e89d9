/** Where a link of a page leads, as its file says it. */
export type LinkEnd =
  /** A page of the same file, counted from 1. */
  | { kind: 'page'; page: number }
  /** A page of another file, named from the folder of this one. */
  | { kind: 'file'; path: string; page: number }
  | { kind: 'address'; url: string };

/** A link on a page: its box as shares of the page, in per cent. */
export interface PageLink {
  to: LinkEnd;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Another file and its destination as pdf.js gives them: a path with the page, counted from 0, behind a hash. */
export function remoteEnd(said: string): LinkEnd | undefined {
  const hash = said.indexOf('#');
  const path = decoded(hash < 0 ? said : said.slice(0, hash));
  if (path === '' || /^[a-z][a-z\d+.-]*:/i.test(path)) return undefined;
  const first = /^\s*\[?\s*(\d+)/.exec(decoded(hash < 0 ? '' : said.slice(hash + 1)))?.[1];
  return { kind: 'file', path, page: Number(first ?? 0) + 1 };
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
