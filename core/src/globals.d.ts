/** The two web globals that core uses besides the language itself; both exist in browsers, workers and Node alike. */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes?: ArrayBufferView | ArrayBuffer): string;
}
declare class TextEncoder {
  encode(text?: string): Uint8Array<ArrayBuffer>;
}
