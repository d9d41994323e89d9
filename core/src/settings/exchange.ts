import type { Setting, ValuesOf } from './descriptor';

/** How DXF files are written. */
export const DXF_OPTIONS = [
  {
    key: 'dxfSize',
    kind: 'choice',
    caption: 'Size',
    description:
      'DXF as large as the paper; `sheet`: the whole sheet enlarged, so that what it shows at its main scale has its true size; `model`: what it shows of its drawings, in their coordinates and at true size, without frame and title block',
    options: [
      { value: undefined, words: 'as on paper' },
      { value: 'sheet', words: 'true size, whole sheet' },
      { value: 'model', words: 'true size, drawings only' },
    ],
  },
  {
    key: 'dxfUnit',
    kind: 'choice',
    caption: 'Unit',
    description: 'the unit of DXF files, mm where it is left out',
    options: [
      { value: undefined, words: 'mm' },
      { value: 'cm', words: 'cm' },
      { value: 'm', words: 'm' },
      { value: 'in', words: 'in' },
      { value: 'ft', words: 'ft' },
    ],
  },
  {
    key: 'dxfColours',
    kind: 'choice',
    caption: 'Colours and weights',
    description: 'lines of DXF files as the recipe prints them, or as they are drawn',
    options: [
      { value: undefined, words: 'as printed' },
      { value: 'drawn', words: 'as drawn' },
    ],
  },
  {
    key: 'dxfLayers',
    kind: 'choice',
    caption: 'Layers',
    description:
      'layers of DXF files: as in the drawings, or one for each line weight and colour, which its lines then take from it',
    options: [
      { value: undefined, words: 'as drawn' },
      { value: 'pens', words: 'by pen' },
    ],
  },
  {
    key: 'dxfBlocks',
    kind: 'choice',
    caption: 'Blocks',
    description:
      'block references of the drawings as the lines, areas and texts that they show, or `kept` as references to blocks; one that is cut by the edge of a view, stretched in one direction or shows pictures is opened all the same',
    options: [
      { value: undefined, words: 'opened' },
      { value: 'kept', words: 'kept' },
    ],
  },
  {
    key: 'dxfPictures',
    kind: 'choice',
    caption: 'Pictures',
    description:
      'pictures, and pages of PDFs, as their outlines, or as files (PNG, JPEG) in the same folder that the DXF file refers to; `R12` has outlines only',
    options: [
      { value: undefined, words: 'outlines only' },
      { value: 'files', words: 'as files' },
    ],
  },
  {
    key: 'dxfTexts',
    kind: 'choice',
    caption: 'Texts',
    description: 'texts of DXF files as text, or as the outlines of their letters',
    options: [
      { value: undefined, words: 'as text' },
      { value: 'outlines', words: 'as outlines' },
    ],
  },
  {
    key: 'dxfVersion',
    kind: 'choice',
    caption: 'Version',
    description:
      'release of the format; `2000` has only the nearest of 255 colours and no transparency; `R12` also has no line weights and no unit, writes curves as straight pieces and areas as triangles, and shortens names',
    options: [
      { value: undefined, words: '2013' },
      { value: 'R12', words: 'R12' },
      { value: '2000', words: '2000' },
      { value: '2010', words: '2010' },
      { value: '2018', words: '2018' },
    ],
  },
] as const satisfies readonly Setting[];

/** How DXF files are written for a partner: saved under a name, for packages to use. */
export interface KeptExchange extends ValuesOf<typeof DXF_OPTIONS> {
  id: string;
  name: string;
}
