/** What painting needs of a canvas's gradient. */
export interface CanvasShade {
  addColorStop(at: number, colour: string): void;
}

/** What painting needs of a 2D canvas; browsers' canvases have it on screen and off. */
export interface Canvas2D {
  fillStyle: unknown;
  strokeStyle: unknown;
  globalAlpha: number;
  lineWidth: number;
  lineCap: string;
  lineJoin: string;
  miterLimit: number;
  font: string;
  fontKerning: string;
  setTransform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  transform(a: number, b: number, c: number, d: number, e: number, f: number): void;
  save(): void;
  restore(): void;
  beginPath(): void;
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  quadraticCurveTo(hx: number, hy: number, x: number, y: number): void;
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  closePath(): void;
  rect(x: number, y: number, width: number, height: number): void;
  clip(rule?: 'nonzero' | 'evenodd'): void;
  drawImage(image: unknown, x: number, y: number, width: number, height: number): void;
  stroke(): void;
  fill(rule?: 'nonzero' | 'evenodd'): void;
  fillRect(x: number, y: number, width: number, height: number): void;
  fillText(text: string, x: number, y: number): void;
  readonly canvas: { width: number; height: number };
  globalCompositeOperation: string;
  getImageData(x: number, y: number, width: number, height: number): { data: Uint8ClampedArray };
  putImageData(image: unknown, x: number, y: number): void;
  createLinearGradient(x0: number, y0: number, x1: number, y1: number): CanvasShade;
  createRadialGradient(x0: number, y0: number, r0: number, x1: number, y1: number, r1: number): CanvasShade;
  measureText(text: string): { width: number };
  setLineDash(dashes: number[]): void;
}
