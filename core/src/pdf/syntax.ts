/** A PDF text string: ASCII as a literal, anything else as UTF-16BE in hexadecimal (ISO 32000-2, 7.9.2.2). */
export function textString(text: string): string {
  if (/^[\x20-\x7e]*$/.test(text)) return `(${text.replace(/[\\()]/g, '\\$&')})`;
  let hex = 'FEFF';
  for (let i = 0; i < text.length; i++) hex += text.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0');
  return `<${hex}>`;
}

/** A PDF date at the start of a day, UTC, from YYYY-MM-DD. */
export function dateString(date: string): string {
  return `(D:${date.replaceAll('-', '')}000000Z)`;
}

/** A length in points with at most six decimals. */
export function points(value: number): string {
  return String(Number(value.toFixed(6)));
}

export function xmlText(text: string): string {
  return text.replace(/[<>&"]/g, (c) => `&#${c.charCodeAt(0)};`).replace(/[^\t\n\r\x20-\uFFFD]/g, '');
}
