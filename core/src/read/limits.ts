/** Largest drawing file that is taken, bytes. */
export const MAX_DRAWING_BYTES = 250 * 1024 * 1024;

/** The problem of a larger one. */
export function tooLargeSentence(name: string): string {
  const most = Math.round(MAX_DRAWING_BYTES / 1024 / 1024);
  return `${name} is larger than ${most} MB and was not taken; split the drawing or purge what it does not use.`;
}
