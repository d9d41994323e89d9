/** What readers that know nothing of the writer found in a finished file, and in what that differs from what went in. */
export interface Proof {
  pages: number;
  /** Characters of text but for spaces. */
  characters: number;
  fonts: number;
  layers: number;
  links: number;
  /** True where qpdf is on the machine and found no fault in the file's structure. */
  sound?: true;
  /** Views whose measuring dictionary gives their scale. */
  measured: number;
  differences: string[];
  /** Why it was not read. */
  unread?: string;
}

/** The proof of a file of which nothing was found, or looked for. */
export function emptyProof(): Proof {
  return { pages: 0, characters: 0, fonts: 0, layers: 0, links: 0, measured: 0, differences: [] };
}
