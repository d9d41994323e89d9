let count = 0;

/** An id that no other field of the page has. */
export function nextFieldId(): string {
  return `fx-field-${++count}`;
}
