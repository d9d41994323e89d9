/** What readers that know nothing of the writer found in a finished file, and in what that differs from what went in. */
export interface Proof {
  pages: number;
  /** Characters of text but for spaces. */
  characters: number;
  fonts: number;
  layers: number;
  links: number;
  /** Views whose measuring dictionary gives their scale. */
  measured: number;
  differences: string[];
  /** Why it was not read. */
  unread?: string;
}
