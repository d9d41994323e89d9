/** What is used of bidi-js, which comes without types. */
declare module 'bidi-js' {
  interface Levels {
    levels: Uint8Array;
    paragraphs: { start: number; end: number; level: number }[];
  }
  export default function createBidi(): {
    getEmbeddingLevels(text: string, baseDirection?: 'ltr' | 'rtl' | 'auto'): Levels;
    getReorderedString(text: string, levels: Levels): string;
  };
}
