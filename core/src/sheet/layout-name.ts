/**
 * Number and title of a sheet from the name of the layout it takes over: `A-101 Ground floor`, `A-101 - Ground floor`.
 * A name that does not begin with a number of a sheet is the number, as it is.
 */
export function parseLayoutName(name: string): { number: string; title: string } {
  const parts = /^([\p{L}]{0,4}[-. ]?\d[\w.-]*)(?:\s*[-–:_]\s+|\s+)(.+)$/u.exec(name.trim());
  return parts ? { number: parts[1]!, title: parts[2]! } : { number: name.trim(), title: '' };
}
