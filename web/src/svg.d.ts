/** The build and the tests read an SVG file as its text. */
declare module '*.svg' {
  const svg: string;
  export default svg;
}
