declare module 'bidi-js' {
  interface Paragraph {
    readonly start: number;
    readonly end: number;
    /** 0 for left to right, 1 for right to left. */
    readonly level: number;
  }
  interface EmbeddingLevels {
    readonly paragraphs: readonly Paragraph[];
    readonly levels: Uint8Array;
  }
  interface Bidi {
    getEmbeddingLevels(text: string, direction?: 'ltr' | 'rtl' | 'auto'): EmbeddingLevels;
    getReorderedString(text: string, levels: EmbeddingLevels): string;
  }
  export default function createBidi(): Bidi;
}
