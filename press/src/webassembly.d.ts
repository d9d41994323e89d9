/** As much of the WebAssembly interface (W3C, JavaScript Interface 1.0) as is used; Node's own types leave it out. */
declare namespace WebAssembly {
  interface Memory {
    readonly buffer: ArrayBuffer;
  }
  function instantiate(bytes: Uint8Array, imports: object): Promise<{ instance: { exports: Record<string, unknown> } }>;
}
