/** The mark of the harbour trust: a tern over water at dawn. Made up for the demo, like all of it. 30 × 30 mm. */
export const HARBOUR_MARK = `<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 120 120">
  <defs>
    <linearGradient id="sky" x1="0" y1="0" x2="0" y2="1">
      <stop offset="0" stop-color="#24506b"/>
      <stop offset="0.6" stop-color="#d98a5b"/>
      <stop offset="1" stop-color="#f3d9a4"/>
    </linearGradient>
    <radialGradient id="sun" cx="0.5" cy="0.5" r="0.5">
      <stop offset="0" stop-color="#fff6dc"/>
      <stop offset="1" stop-color="#f0b35a"/>
    </radialGradient>
  </defs>
  <circle cx="60" cy="60" r="56" fill="#1d3f54"/>
  <circle cx="60" cy="60" r="53" fill="url(#sky)"/>
  <circle cx="60" cy="74" r="14" fill="url(#sun)"/>
  <path d="M8.6 82.2h102.8A56 56 0 0 1 8.6 82.2z" fill="#1d3f54"/>
  <path d="M28 90q8-5 16 0t16 0t16 0t16 0v3q-8 5-16 0t-16 0t-16 0t-16 0z" fill="#f3d9a4"/>
  <path d="M22 46c16-4 26 0 36 12c6-14 18-24 40-28c-14 8-24 18-30 32c-2 4-6 6-10 4c-8-4-18-16-36-20z" fill="#ffffff"/>
</svg>
`;
