/** Pieces one after the other, as one array. */
export function joinBytes(pieces: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
