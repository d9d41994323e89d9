/** The three web globals that core uses besides the language itself; all exist in browsers, workers and Node alike. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes?: ArrayBufferView | ArrayBuffer): string;
}
declare class TextEncoder {
  encode(text?: string): Uint8Array<ArrayBuffer>;
}
declare function atob(base64: string): string;
