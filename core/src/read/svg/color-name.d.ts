/** CSS's named colours as red, green and blue, 0…255. */
declare module 'color-name' {
  const names: Record<string, [number, number, number]>;
  export default names;
}
