import { ORIGIN } from './site';
import { DETAIL_WINDOWS } from './details';

/** The demo as a job file (see docs/job-file.md). */
export function job(): object {
  const [ox, oy] = ORIGIN;
  return {
    folvex: 4,
    project: {
      number: '2617',
      name: 'Tern Quay Ferry Terminal',
      client: 'Tern Quay Harbour Trust',
      fields: { owner: 'Gannet & Loam Architects', stage: 'Permit' },
      // Architects Daughter, under the SIL Open Font License (hand-LICENSE).
      typefaces: [{ id: 'hand', name: 'Architects Daughter', file: 'tern-quay/hand.ttf' }],
      textStyles: [{ id: 'hand', name: 'Hand lettering', size: 3, font: 'hand' }],
      people: [
        {
          ...{ id: 'checker', name: 'Plan checker', firm: 'Harbour Trust', mail: 'checker@harbourtrust.example' },
          purposes: ['Permit'],
        },
        {
          ...{ id: 'frames', name: 'Frame shop', firm: 'Brineholt Structures', mail: 'frames@brineholt.example' },
          ...{ purposes: ['Tender', 'Construction'], groups: ['Enlarged plans and details'], formats: ['pdf', 'dxf'] },
        },
      ],
    },
    drawings: [
      { id: 'site', file: 'tern-quay/site.dxf' },
      { id: 'survey', file: 'tern-quay/survey.dxf' },
      { id: 'mark', file: 'tern-quay/harbour-mark.svg' },
      { id: 'ground', file: 'tern-quay/ground-floor.dxf' },
      { id: 'upper', file: 'tern-quay/upper-floor.dxf' },
      { id: 'elevations', file: 'tern-quay/elevations-sections.dxf' },
      { id: 'details', file: 'tern-quay/details.dxf' },
    ],
    groups: [
      { id: 'plans', name: 'Site and plans' },
      { id: 'views', name: 'Elevations and sections' },
      { id: 'details', name: 'Enlarged plans and details' },
    ],
    recipes: [
      { id: 'colour', name: 'Full colour, layers', colour: 'full', layers: 'shown' },
      { id: 'black', name: 'All black', colour: 'black', layers: 'shown' },
      { id: 'greys', name: 'Greys, no layers', colour: 'greys', layers: 'none' },
    ],
    sheets: [
      sheet(
        ...(['a001', 'A-001', 'Site plan', 'plans', 'A3', 'P02', '2026-11-12'] as const),
        [view('site', [ox - 62, oy - 48, ox + 118, oy + 64], '1:500', [30, 66])],
        'strip',
        [{ id: 'n1', kind: 'picture', drawing: 'mark', at: [26, 66], to: [52, 40] }],
      ),
      sheet(
        ...(['a101', 'A-101', 'Ground floor plan', 'plans', 'A2', 'P03', '2026-11-18'] as const),
        [view('ground', [-6500, -10600, 44500, 22700], '1:100', [30, 74], 'Ground floor')],
        undefined,
        [
          {
            ...{ id: 'n1', kind: 'text', style: 'hand', at: [200, 52], width: 180 },
            text: 'Finished floor ±0.00 is 4.20 m above chart datum.\nCheck all sizes on site before cutting stone.',
          },
        ],
      ),
      sheet('a102', 'A-102', 'Upper floor plan', 'plans', 'A2', 'P03', '2026-11-18', [
        view('upper', [-6500, -10600, 44500, 22700], '1:100', [30, 74], 'Upper floor'),
      ]),
      sheet('a111', 'A-111', 'Ground floor, setting out', 'plans', 'A2', 'P01', '2026-11-18', [
        {
          ...view('ground', [-6500, -10600, 44500, 22700], '1:100', [30, 74], 'Ground floor, setting out'),
          layersOff: ['A-FURN', 'A-SANI', 'A-FLOR', 'L-WATR'],
        },
      ]),
      sheet('a201', 'A-201', 'Elevations north and south', 'views', 'A1', 'P02', '2026-11-12', [
        view('elevations', [-7000, 17500, 47500, 31800], '1:100', [140, 330], 'North elevation'),
        view('elevations', [-7000, -5500, 47500, 12500], '1:100', [140, 110], 'South elevation'),
      ]),
      sheet('a202', 'A-202', 'Elevation east', 'views', 'A3', 'P02', '2026-11-12', [
        view('elevations', [52000, -5200, 88500, 12500], '1:100', [36, 82], 'East elevation'),
      ]),
      sheet(
        'a301',
        'A-301',
        'Section A-A',
        'views',
        'A1',
        'P02',
        '2026-11-12',
        [
          {
            ...view('elevations', [-22500, 31500, 28500, 53000], '1:100', [120, 300], 'Section A-A'),
            number: '1',
          },
          {
            ...view('elevations', [-8000, 37600, 12200, 45500], '1:50', [120, 100], 'Section A-A, hall and quay'),
            number: '2',
            // Lettered for the section as a whole.
            lettering: { scale: '1:100' },
          },
        ],
        'side',
        [{ id: 'n1', kind: 'mark', at: [545, 505], to: [468, 452], refers: { sheet: 'a501', view: 'a501v2' } }],
      ),
      sheet('a401', 'A-401', 'Ticket hall and café, enlarged', 'details', 'A1', 'P01', '2026-11-18', [
        { ...view('ground', [11000, -1200, 37000, 17800], '1:50', [45, 125], 'Ticket hall and café'), number: '1' },
        { ...view('ground', [5700, 6900, 12500, 17300], '1:50', [640, 180], 'Stairs and lift'), number: '2' },
      ]),
      sheet('a501', 'A-501', 'Details', 'details', 'A1', 'P01', '2026-11-18', [
        { ...view('details', [...DETAIL_WINDOWS.eaves], '1:10', [45, 262], 'Eaves'), number: '1' },
        { ...view('details', [...DETAIL_WINDOWS.sill], '1:10', [460, 262], 'Window sill'), number: '2' },
        { ...view('details', [...DETAIL_WINDOWS.quay], '1:20', [45, 60], 'Quay edge'), number: '3' },
      ]),
      sheet('a502', 'A-502', 'Bridge to pontoon, hinge', 'details', 'A3', 'P01', '2026-11-18', [
        { ...view('details', [...DETAIL_WINDOWS.hinge], '1:10', [50, 80], 'Hinge at abutment'), number: '1' },
      ]),
    ],
    packages: [
      {
        id: 'permit',
        name: 'Permit set',
        recipe: 'colour',
        order: ['a001', 'a101', 'a401', 'a102', 'a201', 'a202', 'a301', 'a501', 'a502'],
        bundling: 'one',
        names: {
          file: '[sheet.number] [sheet.title](? - rev [sheet.revision])',
          folder: '',
          bundle: '[project.number] [package.name] [run.date > date YYYY-MM-DD]',
        },
      },
      {
        id: 'tender',
        name: 'Tender, separate sheets',
        recipe: 'black',
        order: ['a101', 'a102', 'a111', 'a301', 'a201', 'a202', 'a501', 'a502'],
        bundling: 'sheet',
        names: {
          file: '[project.number]-[sheet.number]-[sheet.title > words _ > ascii](?_[sheet.revision])',
          folder: '[group.name]',
          bundle: '[project.number] [package.name]',
        },
      },
    ],
  };
}

function sheet(
  id: string,
  number: string,
  title: string,
  group: string,
  paper: string,
  index: string,
  date: string,
  views: object[],
  template = paper === 'A3' ? 'strip' : undefined,
  notes: object[] = [],
): object {
  // Each has been issued before under the indices that come before its own.
  const before = Array.from({ length: Number(index.slice(1)) - 1 }, (_, i) => ({
    index: `P0${i + 1}`,
    date: `2026-${String(9 + i).padStart(2, '0')}-15`,
    text: i === 0 ? 'First issue for comment' : 'Comments worked in',
  }));
  return {
    id,
    number,
    title,
    group,
    paper: { name: paper, orientation: 'landscape' },
    frame: 'iso5457',
    titleBlock: {
      ...(template && { template }),
      fields: {
        owner: 'Gannet & Loam Architects',
        creator: 'I. Brandt',
        approval: 'O. Lindqvist',
        type: 'Drawing',
        status: 'For permit',
      },
    },
    revision: { index, date, text: 'Issued for permit' },
    ...(before.length > 0 && { revisions: before }),
    views: views.map((v, i) => ({ id: `${id}v${i + 1}`, ...v })),
    ...(notes.length > 0 && { notes }),
  };
}

function view(drawing: string, window: readonly number[], scale: string, at: readonly number[], label = ''): object {
  return { drawing, space: 'model', window, scale, at, label };
}
