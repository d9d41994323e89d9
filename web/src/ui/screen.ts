const KEY = 'folvex.pixelsPerMm';
/** CSS says 96 pixels to the inch of 25.4 mm; real screens differ. */
const CSS_PIXELS_PER_MM = 96 / 25.4;

/** CSS pixels that measure a millimetre on this screen: as it was measured with a ruler, or as CSS has it. */
export function screenPixelsPerMm(): number {
  return Number(localStorage.getItem(KEY)) || CSS_PIXELS_PER_MM;
}

export function keepScreenPixelsPerMm(pixels: number): void {
  localStorage.setItem(KEY, String(pixels));
}
