/** As much of the WebAssembly interface (W3C, JavaScript Interface 1.0) as is used; Node's own types leave it out. */
interface WebAssemblyInterface {
  instantiate(bytes: Uint8Array, imports: object): Promise<{ instance: { exports: Record<string, unknown> } }>;
}

export interface WasmMemory {
  readonly buffer: ArrayBuffer;
}

export const { WebAssembly: wasm } = globalThis as unknown as { WebAssembly: WebAssemblyInterface };
