import {
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  symlinkSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { execFileSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { DEMO, folvex, ownFolder, smallJob, startFolvex, WALL_DXF, type Ended } from './command';

const require = createRequire(import.meta.url);

const DONE = 0;
const STOPPED = 1;
const UNREADABLE = 2;

/** One sentence, no stack trace. */
function told(ended: Ended, code: number, part: string): void {
  expect(ended.err).toContain(part);
  expect(ended.err).not.toMatch(/^\s+at /m);
  expect(ended.code).toBe(code);
}

let count = 0;
const base = ownFolder();

function fresh(): string {
  const folder = join(base, String(++count));
  mkdirSync(folder);
  return folder;
}

describe('folvex publish', () => {
  it('prints a line a file and a summary, and writes the report', () => {
    const folder = fresh();
    const report = join(folder, 'report.json');
    const ended = folvex(
      'publish',
      DEMO,
      '--package',
      'tender',
      '--out',
      join(folder, 'out'),
      '--report',
      report,
      '--workers',
      '2',
    );
    expect(ended.code).toBe(DONE);
    const lines = ended.out.trim().split('\n');
    expect(lines).toHaveLength(9);
    expect(lines[0]).toMatch(
      /^Site and plans\/2617-A-101-Ground_floor_plan_P03\.pdf {2}1 page {2}\d+ bytes {2}\d+ ms {2}written$/,
    );
    expect(lines[8]).toMatch(/^8 of 8 files, 8 pages, \d+ bytes, \d+ ms$/);
    const { files } = JSON.parse(readFileSync(report, 'utf8')) as {
      files: { path: string; sha256: string; outcome: string }[];
    };
    expect(files).toHaveLength(8);
    for (const file of files) expect(existsSync(join(folder, 'out', file.path))).toBe(true);
  });

  it('letters texts in the typefaces of the job, and says which it cannot read', () => {
    const folder = fresh();
    const bytes = readFileSync(require.resolve('source-sans/WOFF2/OTF/SourceSans3-Bold.otf.woff2'));
    writeFileSync(join(folder, 'office.woff2'), bytes);
    const job = (file: string): string => {
      const project = { typefaces: [{ id: 'office', name: 'Office', file }] };
      const textStyles = [{ id: 'note', name: 'Note', size: 5, font: 'office' }];
      return smallJob(folder, WALL_DXF, {
        project: { ...project, textStyles },
        sheets: [{ id: 's', number: 'A-1', notes: [{ id: 'n', kind: 'text', at: [50, 50], text: 'Site datum' }] }],
      });
    };
    const ended = folvex('publish', job('office.woff2'), '--out', join(folder, 'out'));
    expect([ended.code, ended.err]).toEqual([DONE, '']);
    const [pdf] = readdirSync(join(folder, 'out')).filter((name) => name.endsWith('.pdf'));
    const fonts = execFileSync('pdffonts', [join(folder, 'out', pdf!)], { encoding: 'utf8' });
    expect(fonts).toMatch(/SourceSans3-Bold +CID Type 0C .* yes yes yes/);
    told(
      folvex('publish', job('none.ttf'), '--out', join(folder, 'out')),
      STOPPED,
      'The typeface none.ttf does not exist',
    );
  });

  it('writes sheets in formats besides PDF, of which the DXF is a drawing at the size of the paper', () => {
    const folder = fresh();
    const extraFormats = { formats: ['dxf', 'png', 'svg'], dpi: 50, apart: true };
    const pack = { id: 'p', name: 'Set', order: ['s'], names: { bundle: '[package.name]' }, extraFormats };
    const job = smallJob(folder, WALL_DXF, { packages: [pack] });
    const ended = folvex('publish', job, '--out', join(folder, 'out'));
    expect([ended.code, ended.err]).toEqual([DONE, '']);
    expect(readdirSync(join(folder, 'out'), { recursive: true }).sort()).toEqual([
      ...['DXF', 'DXF/A-1 Wall.dxf', 'PNG', 'PNG/A-1 Wall.png', 'SVG', 'SVG/A-1 Wall.svg', 'Set.pdf'],
    ]);
    const [found] = JSON.parse(folvex('inspect', join(folder, 'out', 'DXF', 'A-1 Wall.dxf')).out) as {
      unit: string;
      extents: [number, number, number, number];
    }[];
    expect(found!.unit).toBe('mm');
    // The frame of ISO 5457 on an A1: 20 mm on the left, 10 mm elsewhere.
    expect(found!.extents.map((side) => Math.round(side))).toEqual([20, 10, 831, 584]);
    // Published again, nothing differs.
    expect(folvex('publish', job, '--out', join(folder, 'out')).out).not.toContain(' written');
  });

  it('writes the pictures of DXF as files in its folder, once for all sheets there', () => {
    const folder = fresh();
    // One pixel.
    const pixel = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
    writeFileSync(join(folder, 'Quay wall.png'), pixel, 'base64');
    const extraFormats = { formats: ['dxf'], dxfPictures: 'files' };
    const view = { id: 'v', drawing: 'd', scale: '100:1', at: [100, 100] };
    const sheet = { number: 'A-1', title: 'Wall', paper: { name: 'A1' }, views: [view] };
    const job = smallJob(folder, WALL_DXF, {
      drawings: [{ id: 'd', file: 'Quay wall.png', unit: 'mm' }],
      sheets: ['s', 't'].map((id) => ({ ...sheet, id, number: `A-${id}` })),
      packages: [{ id: 'p', name: 'Set', order: ['s', 't'], names: { bundle: '[package.name]' }, extraFormats }],
    });
    const ended = folvex('publish', job, '--out', join(folder, 'out'));
    expect(ended.code).toBe(DONE);
    expect(readdirSync(join(folder, 'out')).sort()).toEqual([
      ...['A-s Wall.dxf', 'A-t Wall.dxf', expect.stringMatching(/^Quay wall-[0-9a-f]{8}\.png$/), 'Set.pdf'],
    ]);
    expect(folvex('publish', job, '--out', join(folder, 'out')).out).not.toContain(' written');
  });

  it('leaves nothing but the files behind', () => {
    const folder = fresh();
    folvex('publish', smallJob(folder, WALL_DXF), '--out', join(folder, 'out'));
    expect(readdirSync(join(folder, 'out'))).toEqual(['Set.pdf']);
  });

  it('with --check prints the plan and writes nothing', () => {
    const folder = fresh();
    const ended = folvex('publish', smallJob(folder, WALL_DXF), '--check');
    expect([ended.code, ended.out]).toEqual([DONE, 'Set.pdf  1 page\n']);
    expect(readdirSync(folder).sort()).toEqual(['job.json', 'wall.dxf']);
  });

  it('with --check reports a sheet that cannot be made', () => {
    const folder = fresh();
    const job = smallJob(folder, 'no drawing at all');
    told(folvex('publish', job, '--check'), STOPPED, 'wall.dxf');
  });

  it('with --check looks at composed sheets too, and reports what is there already', () => {
    const folder = fresh();
    const text = '0\nTEXT\n8\nNOTE\n10\n100\n20\n100\n40\n50\n1\nA millimetre high at 1:50\n';
    const job = smallJob(folder, `0\nSECTION\n2\nENTITIES\n${text}0\nENDSEC\n0\nEOF\n`);
    const { code, err } = folvex('publish', job, '--check');
    expect([code, err]).toEqual([DONE, expect.stringContaining('note text.small:')]);
    const out = join(folder, 'out');
    folvex('publish', job, '--out', out);
    expect(folvex('publish', job, '--out', out, '--check').err).toContain('warning file.there: Set.pdf is in');
    expect(folvex('publish', job, '--out', out, '--check', '--replace').err).toContain('is replaced where it differs');
  });

  it('knows an unchanged file, never replaces another one unasked', () => {
    const folder = fresh();
    const out = join(folder, 'out');
    const job = smallJob(folder, WALL_DXF);
    folvex('publish', job, '--out', out);
    expect(folvex('publish', job, '--out', out).out).toContain('unchanged');
    writeFileSync(join(out, 'Set.pdf'), 'mine');
    told(folvex('publish', job, '--out', out), STOPPED, 'is there already and differs');
    expect(readFileSync(join(out, 'Set.pdf'), 'utf8')).toBe('mine');
    expect(folvex('publish', job, '--out', out, '--replace').code).toBe(DONE);
    expect(readFileSync(join(out, 'Set.pdf'), 'latin1')).toMatch(/^%PDF-1\.7/);
  });

  it('takes a link that leads nowhere for a file that is there', () => {
    const folder = fresh();
    const out = join(folder, 'out');
    mkdirSync(out);
    symlinkSync(join(folder, 'nowhere.pdf'), join(out, 'Set.pdf'));
    const job = smallJob(folder, WALL_DXF);
    told(folvex('publish', job, '--out', out), STOPPED, 'is there already and differs');
    expect(lstatSync(join(out, 'Set.pdf')).isSymbolicLink()).toBe(true);
    expect(folvex('publish', job, '--out', out, '--replace').code).toBe(DONE);
    expect(readFileSync(join(out, 'Set.pdf'), 'latin1')).toMatch(/^%PDF-1\.7/);
    expect(existsSync(join(folder, 'nowhere.pdf'))).toBe(false);
  });

  it.each([
    ['SIGINT', 130],
    ['SIGTERM', 143],
  ] as const)('ended by %s leaves no unfinished files behind', async (signal, code) => {
    const folder = fresh();
    const out = join(folder, 'out');
    // Many sheets, so that it is still at work when its first unfinished file is seen.
    const view = { id: 'v', drawing: 'd', window: [0, 0, 15_000, 10_000], scale: '1:50', at: [100, 100] };
    const ids = Array.from({ length: 400 }, (_, i) => `s${i}`);
    const sheets = ids.map((id) => ({ id, number: id, title: '', paper: { name: 'A1' }, views: [view] }));
    const packages = [{ id: 'p', name: 'Set', order: ids, names: { bundle: '[package.name]' } }];
    const job = smallJob(folder, WALL_DXF, { sheets, packages });
    const child = startFolvex('publish', job, '--out', out, '--workers', '2');
    const ended = new Promise<number | null>((resolve) => child.on('close', resolve));
    const parts = () =>
      existsSync(out) ? readdirSync(out, { recursive: true }).filter((name) => /part$/.test(`${name}`)) : [];
    while (parts().length === 0 && child.exitCode === null) await new Promise((resolve) => setTimeout(resolve, 10));
    child.kill(signal);
    expect(await ended).toBe(code);
    expect(readdirSync(out)).toEqual([]);
  });

  it('asks which package where there are several', () => {
    told(folvex('publish', DEMO, '--out', fresh()), UNREADABLE, 'permit, tender');
    told(folvex('publish', DEMO, '--package', 'zzz', '--out', fresh()), UNREADABLE, 'There is no package "zzz"');
  });

  it('prints its usage', () => {
    told(folvex(), UNREADABLE, 'Usage: folvex');
    expect(folvex('--help')).toMatchObject({ code: DONE, out: expect.stringContaining('publish') as string });
    expect(folvex('publish', '--help').out).toContain('--package <id>');
    expect(folvex('--version').out.trim()).toMatch(/^\d+\.\d+\.\d+$/);
    told(folvex('publish', DEMO, '--workers', 'many'), UNREADABLE, 'It takes a number from 1 to 64');
  });
});

describe('bad input', () => {
  it('of the job file ends with 2 and the place', () => {
    const folder = fresh();
    told(folvex('publish', join(folder, 'none.json'), '--out', folder), UNREADABLE, 'cannot be read (ENOENT)');
    writeFileSync(join(folder, 'bad.json'), '{');
    told(folvex('publish', join(folder, 'bad.json'), '--out', folder), UNREADABLE, 'is not JSON');
    const job = smallJob(folder, WALL_DXF, { layers: 3 });
    told(folvex('publish', job, '--out', folder), UNREADABLE, 'layers is not known in a job file');
    const wrong = smallJob(folder, WALL_DXF, { recipes: [{ id: 'r', name: 'R', text: 'carved' }] });
    told(folvex('publish', wrong, '--out', folder), UNREADABLE, 'recipes[0].text must be one of');
  });

  it.each([
    ['an empty drawing', '', 'wall.dxf is empty'],
    [
      'a PNG named .dxf',
      Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]),
      'wall.dxf cannot be read as a PNG picture',
    ],
  ])('of %s stops that file with one sentence', (_, bytes, part) => {
    const folder = fresh();
    told(folvex('publish', smallJob(folder, bytes), '--out', join(folder, 'out')), STOPPED, part);
  });

  it('of a drawing of 300 MB is refused before it is read', () => {
    const folder = fresh();
    const job = smallJob(folder, WALL_DXF);
    truncateSync(join(folder, 'wall.dxf'), 300 * 1024 * 1024);
    told(folvex('publish', job, '--out', join(folder, 'out')), STOPPED, 'is larger than 250 MB');
  });

  it('of a drawing that is not there names it', () => {
    const folder = fresh();
    const job = smallJob(folder, WALL_DXF, { drawings: [{ id: 'd', file: 'gone.dxf' }] });
    told(folvex('publish', job, '--out', join(folder, 'out')), STOPPED, 'The drawing gone.dxf does not exist');
  });

  it('of a drawing cut off in the middle publishes what came before, with a warning', () => {
    const folder = fresh();
    const ended = folvex(
      'publish',
      smallJob(folder, WALL_DXF.slice(0, WALL_DXF.indexOf('A-NOTE'))),
      '--out',
      join(folder, 'out'),
    );
    told(ended, DONE, 'breaks off at line');
    expect(ended.out).toContain('Set.pdf  1 page');
  });

  it('of a naming rule with a blank field stops before anything is written', () => {
    const folder = fresh();
    const packages = [
      { id: 'p', name: 'Set', order: ['s'], bundling: 'sheet', names: { file: '[sheet.number] [sheet.revision]' } },
    ];
    told(
      folvex('publish', smallJob(folder, WALL_DXF, { packages }), '--out', join(folder, 'out')),
      STOPPED,
      '[sheet.revision] is blank for A-1',
    );
    expect(existsSync(join(folder, 'out'))).toBe(false);
  });

  it('of a folder that cannot be written to names it', () => {
    const folder = fresh();
    told(
      folvex('publish', smallJob(folder, WALL_DXF), '--out', join(folder, 'wall.dxf')),
      STOPPED,
      'Nothing can be written to',
    );
  });

  it('of a folder under which nothing can be made ends with a sentence', () => {
    const job = smallJob(fresh(), WALL_DXF);
    told(folvex('publish', job, '--out', '/proc/folvex'), STOPPED, 'Nothing can be written to /proc/folvex');
    told(folvex('publish', job, '--out', '/proc'), STOPPED, 'Nothing can be written to /proc');
    told(folvex('relink', fresh(), '--out', '/proc/folvex'), STOPPED, 'Nothing can be written to /proc/folvex');
  });

  it('that only shows on a composed sheet stops a run before any file is written', () => {
    const folder = fresh();
    const text = '0\nTEXT\n8\nNOTE\n10\n100\n20\n100\n40\n50\n1\nA millimetre high at 1:50\n';
    const drawing = `0\nSECTION\n2\nENTITIES\n${text}0\nENDSEC\n0\nEOF\n`;
    const project = { number: '1', name: 'Small', checks: { 'text.small': 'stop' } };
    const job = smallJob(folder, drawing, { project });
    told(folvex('publish', job, '--out', join(folder, 'out')), STOPPED, 'stop text.small:');
    expect(readdirSync(join(folder, 'out'))).toEqual([]);
  });

  it('of one sheet leaves the files of the others whole', () => {
    const folder = fresh();
    const view = { id: 'v', drawing: 'd', scale: '1:50', window: [0, 0, 15_000, 10_000], at: [30, 30] };
    const sheets = [
      { id: 'good', number: 'A-1', title: 'Good', paper: { name: 'A1' }, views: [view] },
      { id: 'bad', number: 'A-2', title: 'Bad', paper: { name: 'A1' }, views: [{ ...view, scale: 'about' }] },
    ];
    const packages = [
      { id: 'p', name: 'Set', order: ['good', 'bad'], bundling: 'sheet', names: { file: '[sheet.number]' } },
    ];
    const ended = folvex('publish', smallJob(folder, WALL_DXF, { sheets, packages }), '--out', join(folder, 'out'));
    told(ended, STOPPED, 'sheet A-2: "about" is not a scale');
    expect(readdirSync(join(folder, 'out'))).toEqual(['A-1.pdf']);
    expect(ended.out).toContain('1 of 2 files');
  });
});

describe('folvex test-sheet', () => {
  it('writes the page of a paper, over nothing that is there, and knows papers by name only', () => {
    const file = join(fresh(), 'test.pdf');
    expect(folvex('test-sheet', 'a3', file)).toMatchObject({ code: DONE, err: '' });
    expect(readFileSync(file, 'latin1').slice(0, 5)).toBe('%PDF-');
    told(folvex('test-sheet', 'A3', file), STOPPED, 'is there already; choose another name');
    told(folvex('test-sheet', 'A33', file), UNREADABLE, 'There is no paper "A33"');
    told(folvex('test-sheet', 'A3', join(file, 'below.pdf')), STOPPED, 'choose another folder');
  });
});

describe('folvex inspect', () => {
  const folder = ownFolder();

  it('reports as JSON what is in drawings, and what cannot be read', () => {
    const svg = join(folder, 'plan.svg');
    writeFileSync(
      svg,
      '<svg xmlns="http://www.w3.org/2000/svg" width="762mm" height="1067mm" viewBox="0 0 762 1067"><g id="walls"><path d="M0 0H762"/></g></svg>',
    );
    const odd = join(folder, 'odd.dxf');
    writeFileSync(odd, 'Dear reader');
    const ended = folvex('inspect', svg, odd, join(folder, 'gone.dxf'));
    expect(ended.code).toBe(1);
    const [drawn, refused, gone] = JSON.parse(ended.out) as Record<string, unknown>[];
    // Common practice: Arch E1 is 30 × 42 in, 762 × 1066.8 mm.
    expect(drawn).toMatchObject({
      ok: true,
      format: 'SVG',
      unit: 'mm',
      layouts: [{ name: 'Page 1', sizes: [{ name: 'Arch E1', orientation: 'portrait' }] }],
      warnings: [],
    });
    expect(refused).toMatchObject({ ok: false, problem: { code: 'dxf.not-dxf' } });
    expect(gone).toMatchObject({ ok: false, problem: { code: 'file.unreadable' } });
    expect(ended.err).toBe('');
  });
});
