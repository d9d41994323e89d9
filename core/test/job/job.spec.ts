import { readFileSync } from 'node:fs';
import Ajv from 'ajv/dist/2020.js';
import { JOB_FILE_VERSION, jobFileFrom, projectSchema, readJobFile } from '../../src/index';

const DEMO = JSON.parse(readFileSync(new URL('../../../demo/tern-quay.job.json', import.meta.url), 'utf8')) as Demo;
const SCHEMA = JSON.parse(
  readFileSync(new URL('../../../docs/job-file.schema.json', import.meta.url), 'utf8'),
) as object;
const matchesSchema = new Ajv({ allErrors: true }).compile(SCHEMA);

interface Demo {
  [key: string]: unknown;
  sheets: Record<string, unknown>[];
  packages: Record<string, unknown>[];
  recipes: Record<string, unknown>[];
}

/** The demo's job with one thing changed. */
function changed(change: (job: Demo) => void): Demo {
  const job = structuredClone(DEMO);
  change(job);
  return job;
}

function pathsOf(job: unknown): (string | undefined)[] {
  const result = jobFileFrom(job);
  return result.ok ? [] : result.problems.map(({ place }) => place.path);
}

describe('a job file', () => {
  it('is read, and what is left out filled in', () => {
    const result = jobFileFrom({
      folvex: 4,
      project: { name: 'X' },
      drawings: [{ id: 'd', file: 'd.dxf' }],
      sheets: [{ id: 's', views: [{ id: 'v', drawing: 'd' }] }],
    });
    expect(result).toMatchObject({
      ok: true,
      job: {
        project: { number: '', name: 'X', client: '', fields: {} },
        sheets: [
          {
            frame: 'iso5457',
            views: [{ space: 'model', window: 'extents', scale: 'fit', at: 'centre', layersOff: [] }],
          },
        ],
        packages: [],
      },
    });
  });

  it('may begin with a byte order mark', () => {
    expect(readJobFile(`\uFEFF${JSON.stringify(DEMO)}`).ok).toBe(true);
  });

  it.each([
    ['not JSON', '{ "folvex": 1,'],
    ['a list', '[]'],
    ['a text', '"x"'],
  ])('is refused when it is %s', (_, text) => {
    const result = readJobFile(text);
    expect(result).toMatchObject({ ok: false, problems: [{ code: 'job.json' }] });
  });

  it.each<[string, (job: Demo) => void, string]>([
    ['an unknown key', (job) => (job['colour'] = 1), 'colour'],
    ['an unknown key deep inside', (job) => (job.sheets[2]!['papr'] = 'A1'), 'sheets[2].papr'],
    ['a wrong version', (job) => (job['folvex'] = JOB_FILE_VERSION + 1), 'folvex'],
    ['a number for a text', (job) => (job.sheets[0]!['title'] = 5), 'sheets[0].title'],
    ['an unknown bundling', (job) => (job.packages[0]!['bundling'] = 'zip'), 'packages[0].bundling'],
    ['paper without a name', (job) => (job.sheets[1]!['paper'] = { orientation: 'portrait' }), 'sheets[1].paper'],
    ['paper beyond all size', (job) => (job.sheets[1]!['paper'] = { size: [100, 1e9] }), 'sheets[1].paper'],
    [
      'a date that is none',
      (job) => (job.sheets[0]!['revision'] = { index: 'P1', date: '1.2.26' }),
      'sheets[0].revision.date',
    ],
    [
      'a sheet field whose name no rule could say',
      (job) => ((job['project'] as Demo)['sheetFields'] = [{ name: 'two words', caption: 'x', kind: 'text' }]),
      'project.sheetFields[0].name',
    ],
    [
      'an outline of two points',
      (job) =>
        ((job.sheets[0]!['views'] as Record<string, unknown>[])[0]!['outline'] = [
          [0, 0],
          [1, 1],
        ]),
      'sheets[0].views[0].outline',
    ],
    [
      'a mark that refers to nothing by name',
      (job) => (job.sheets[0]!['notes'] = [{ id: 'n', kind: 'mark', at: [0, 0], refers: {} }]),
      'sheets[0].notes[0].refers.sheet',
    ],
    [
      'a window of three numbers',
      (job) => ((job.sheets[0]!['views'] as Record<string, unknown>[])[0]!['window'] = [1, 2, 3]),
      'sheets[0].views[0].window',
    ],
  ])('is refused for %s, with its path', (_, change, path) => {
    const job = changed(change);
    expect(pathsOf(job)).toContain(path);
    // The published schema says the same.
    expect(matchesSchema(job)).toBe(false);
  });

  it.each<[string, (job: Demo) => void, string]>([
    ['a group that is not there', (job) => (job.sheets[0]!['group'] = 'zzz'), 'sheets[0].group'],
    [
      'a drawing that is not there',
      (job) => ((job.sheets[0]!['views'] as Record<string, unknown>[])[0]!['drawing'] = 'zzz'),
      'sheets[0].views[0].drawing',
    ],
    ['a pen schedule that is not there', (job) => (job.recipes[0]!['pens'] = 'office'), 'recipes[0].pens'],
    ['a sheet that does not exist', (job) => (job.packages[0]!['order'] = ['zzz']), 'packages[0].order[0]'],
    ['an id used twice', (job) => (job.sheets[1]!['id'] = job.sheets[0]!['id']), 'sheets[1].id'],
  ])('is refused for %s', (_, change, path) => {
    expect(pathsOf(changed(change))).toContain(path);
  });

  it('may say everything there is about packages, in both readings alike', () => {
    const job = changed((one) => {
      Object.assign(one['project'] as object, { checks: { 'text.small': 'off', 'number.gap': 'warning' } });
      const [pack] = one.packages;
      Object.assign(pack!, {
        ...{ purpose: 'Permit', date: '2026-12-01', notes: 'Two copies.' },
        pages: {
          [(pack!['order'] as string[])[0]!]: {
            skip: true,
            colour: 'black',
            paper: { name: 'A3', orientation: 'landscape' },
            copies: 2,
            stamps: [{ text: 'SUPERSEDED', at: 'top', size: 5, colour: 0 }],
          },
        },
        blanks: 'skip',
        extras: [{ id: 'list', kind: 'index', number: '00', title: 'Sheets' }],
        members: { groups: ['A'], without: ['*draft*'] },
        after: { a: 'b' },
        stamps: [{ text: 'PRELIMINARY [run.date]', at: 'middle', size: 20, colour: 0xb93a14, under: true }],
        accepted: [{ finding: 'text.small\nToo small.', reason: 'Wanted.' }],
      });
    });
    expect(jobFileFrom(job)).toMatchObject({ ok: true });
    expect(matchesSchema(job)).toBe(true);
    const wrong = changed((one) => Object.assign(one.packages[0]!, { pages: { a: { skip: 'yes' } } }));
    expect(jobFileFrom(wrong)).toMatchObject({ ok: false });
    expect(matchesSchema(wrong)).toBe(false);
  });

  it('may say everything there is about recipes, in both readings alike', () => {
    const job = changed((one) => {
      Object.assign(one.recipes[0]!, {
        ...{ pens: 'iso-five', leastWeight: 0.13, weightFactor: 0.7, pictureDpi: 300, pictureQuality: 80 },
        ...{ pictureTone: 'bilevel', links: 'tinted', version: '2.0', text: 'picture', turn: 90, opens: 'width' },
        ...{ layersByView: true, layersLocked: ['A-GRID*'], layersPrintOnly: ['A-PRNT'], linearised: true },
        protect: { open: 'a', change: 'b', allow: ['print'] },
      });
    });
    expect(jobFileFrom(job)).toMatchObject({ ok: true });
    expect(matchesSchema(job)).toBe(true);
  });

  it('has texts as text where a recipe says so, which goes without saying', () => {
    const recipes = ['text', 'outlines'].map((text) => {
      const result = jobFileFrom(changed((job) => (job.recipes[0]!['text'] = text)));
      return result.ok && result.job.recipes[0]!.text;
    });
    expect(recipes).toEqual([undefined, 'outlines']);
  });

  it('names typefaces that ship or that it brings along', () => {
    const styles = (font: string, ...typefaces: object[]) =>
      jobFileFrom(
        changed((job) =>
          Object.assign(job['project'] as object, { textStyles: [{ id: 'a', name: 'A', size: 3, font }], typefaces }),
        ),
      );
    const office = { id: 'office', name: 'Office', file: 'office.ttf' };
    expect(styles('office', office).ok).toBe(true);
    expect(styles('serif').ok).toBe(true);
    expect(styles('office')).toMatchObject({
      problems: [{ code: 'job.reference', place: { path: 'project.textStyles[0].font' } }],
    });
  });

  it('may say everything there is about sheets, in both readings alike', () => {
    const job = changed((one) => {
      Object.assign(one['project'] as object, {
        sheetFields: [{ name: 'phase', caption: 'Phase', kind: 'choice', choices: ['1', '2'], required: true }],
        textStyles: [{ id: 'big', name: 'Big', size: 7, font: 'serif', colour: 0x1a4d8f }],
        typefaces: [{ id: 'office', name: 'Office', file: 'fonts/office.ttc', face: 1, asked: ['isocp'] }],
        plotters: [{ id: 'ours', name: 'Ours', margins: [17, 5, 5, 5] }],
        plotter: 'ours',
        papers: [{ name: 'Long', short: 297, long: 900 }],
        people: [{ id: 'site', name: 'Site office', firm: 'Quay Builders', mail: 'site@quay.example' }],
        exchanges: [{ id: 'x', name: 'Structural engineer', dxfSize: 'model', dxfVersion: 'R12', dxfLayers: 'pens' }],
        namings: [{ id: 'n', name: 'Plain', file: '[sheet.number]', folder: '', bundle: '[package.name]' }],
      });
      (one['groups'] as object[])[0] = {
        id: 'plans',
        name: 'Plans',
        sheets: {
          paper: { name: 'A1', orientation: 'landscape' },
          frame: 'plain',
          marks: ['folding'],
          template: 'side',
        },
      };
      one.packages[0]!['tiles'] = { paper: { name: 'A3', orientation: 'landscape' }, overlap: 20 };
      Object.assign(one.sheets[0]!, {
        paper: { name: 'Long', orientation: 'landscape' },
        marks: ['folding'],
        fields: { phase: '2' },
        notes: [
          { id: 'a', kind: 'mark', at: [1, 2], refers: { sheet: 'a501', view: 'a501v2' } },
          { id: 'b', kind: 'picture', at: [1, 2], to: [9, 9], drawing: 'site' },
          { id: 'c', kind: 'table', at: [1, 2], text: 'a,b', style: 'big' },
        ],
      });
      const [view] = one.sheets[0]!['views'] as Record<string, unknown>[];
      Object.assign(view!, {
        number: '1',
        border: true,
        outline: [
          [0, 0],
          [1, 0],
          [1, 1],
        ],
        lettering: { scale: '1:50', layers: ['A-*'] },
      });
    });
    expect(pathsOf(job)).toEqual([]);
    matchesSchema(job);
    expect(matchesSchema.errors).toBeNull();
  });

  it('has papers lie as landscape where nothing is said, wherever they are named', () => {
    const job = jobFileFrom(
      changed((one) => {
        const paper = { name: 'A3' };
        one.sheets[0]!['paper'] = paper;
        one.packages[0]!['tiles'] = { paper };
        one['groups'] = [
          { ...(one['groups'] as object[])[0], sheets: { paper } },
          ...(one['groups'] as object[]).slice(1),
        ];
      }),
    );
    const lying = { name: 'A3', orientation: 'landscape' };
    if (!job.ok) throw new Error(job.problems[0]!.sentence);
    const { sheets, packages, groups } = job.job;
    expect([sheets[0]!.paper, packages[0]!.tiles, groups[0]!.sheets]).toEqual([
      lying,
      { paper: lying, overlap: 15 },
      { paper: lying },
    ]);
  });

  it('may state of a project what the published schema lists, and nothing else', () => {
    const published = (SCHEMA as { properties: { project: { properties: object } } }).properties.project.properties;
    // Pen schedules are next to it in a job file.
    const { penSchedules: _, ...fields } = projectSchema.fields;
    expect(Object.keys(published).sort()).toEqual(Object.keys(fields).sort());
    const job = changed((demo) =>
      Object.assign(demo['project'] as object, {
        inboxes: [{ id: 'i', name: 'Structures', server: 's', folder: 'in', takes: 'versions' }],
        versionMark: '_P',
      }),
    );
    expect([pathsOf(job), matchesSchema(job)]).toEqual([[], true]);
    const wrong = changed((demo) =>
      Object.assign(demo['project'] as object, { inboxes: [{ id: 'i', name: 'Structures', takes: 'some' }] }),
    );
    expect([pathsOf(wrong), matchesSchema(wrong)]).toEqual([['project.inboxes[0].takes'], false]);
  });

  it('of the demo holds to the published schema', () => {
    matchesSchema(DEMO);
    expect(matchesSchema.errors).toBeNull();
  });
});
