import {
  blankCells,
  composeSheet,
  jobFileFrom,
  outputPlan,
  parseScale,
  runChecks,
  SHIPPED_TEMPLATES,
  titleFields,
  typedFields,
  type ComposedSheet,
  type Sheet,
  type TitleTemplate,
} from '../../src/index';
import { dxf, line, read } from '../support/dxf';
import { FONTS } from '../support/fonts';

const PROJECT = { number: '2617', name: 'Ferry terminal', client: 'Harbour', fields: { owner: 'Office' } };
const REVISION = { index: 'P03', date: '2026-11-18', text: 'For permit' };

function sheet(scales: string[], titleBlock: Sheet['titleBlock'], more: Partial<Sheet> = {}): Sheet {
  return {
    id: 's',
    number: 'A-101',
    title: 'Ground floor plan',
    group: '',
    paper: { name: 'A1', orientation: 'landscape' },
    frame: 'iso5457',
    titleBlock,
    revision: REVISION,
    views: scales.map((scale, i) => ({
      id: `v${i}`,
      drawing: 'd',
      space: 'model',
      window: [0, 0, 1000, 1000] as [number, number, number, number],
      scale,
      at: [100, 200 + 60 * i] as [number, number],
      layersOff: [],
      label: '',
    })),
    ...more,
  };
}

function composed(one: Sheet, titleBlocks?: TitleTemplate[]): ComposedSheet {
  const { drawing } = read(dxf({ entities: line(0, 0, 1000, 1000) }));
  const source = (id: string) => (id === 'd' ? { drawing, unit: 'mm' as const } : undefined);
  return composeSheet({ project: { ...PROJECT, titleBlocks }, sheet: one, fonts: FONTS, source });
}

const texts = ({ page }: ComposedSheet): string[] => page.texts.map(({ text }) => text);

describe('the fields of a title block', () => {
  // ISO 7200: values are derived; several scales are "as indicated", none is "not to scale" (common practice).
  it.each([
    [['1:50'], '1:50'],
    [['1:50', '1:50'], '1:50'],
    [['1:50', '1:20'], 'As indicated'],
    [[], 'Not to scale'],
    [[`1/8" = 1'-0"`], `1/8" = 1'-0"`],
    [[`1/8" = 1'-0"`, '1:96'], '1:96'],
  ])('say of views at %j the scale %s', (scales, said) => {
    const made = composed(sheet(scales, { fields: {} }));
    expect(texts(made)).toContain(said);
  });

  it.each(SHIPPED_TEMPLATES.map(({ id }) => id))(
    'are all there in the template %s, and none is typed twice',
    (template) => {
      const made = composed(sheet(['1:50'], { template, fields: { creator: 'I. Brandt' } }));
      const said = texts(made).join('\n');
      for (const value of ['A-101', 'Ground floor plan', '1:50', 'A1', 'P03', '2026-11-18', 'Office', 'I. Brandt']) {
        expect(said).toContain(value);
      }
      // Inside the frame of ISO 5457: 20 mm left, 10 mm on the other sides of 841 × 594 (from memory).
      for (const { x, y } of made.page.texts) {
        expect(x / 100).toBeGreaterThan(20);
        expect(x / 100).toBeLessThan(831);
        expect(y / 100).toBeGreaterThan(10);
        expect(y / 100).toBeLessThan(584);
      }
    },
  );

  it('take what is typed on the sheet before what the project says', () => {
    const facts = { project: PROJECT, paper: { width: 841, height: 594 }, scales: [], imperial: false };
    const fields = titleFields({ ...facts, sheet: sheet([], { fields: { owner: ' ', creator: 'X' } }) });
    expect(fields['block.owner']).toBe('Office');
    expect(titleFields({ ...facts, sheet: sheet([], { fields: { owner: 'Branch' } }) })['block.owner']).toBe('Branch');
    expect(typedFields(SHIPPED_TEMPLATES[0]!).map(({ name }) => name)).toEqual([
      'owner',
      'creator',
      'approval',
      'type',
      'status',
    ]);
  });

  it('are pointed out where they are required and blank, with their place on the paper', () => {
    const made = composed(sheet(['1:50'], { fields: { creator: 'X', approval: 'Y' } }));
    expect(made.blanks.map(({ caption }) => caption)).toEqual(['Document type']);
    // The corner block begins 180 mm left of the frame's right edge.
    expect(made.blanks[0]!.box).toEqual({ xmin: 651, ymin: 10, xmax: 691, ymax: 21 });
    const facts = { project: PROJECT, paper: { width: 1, height: 1 }, scales: [parseScale('1:50')!], imperial: false };
    expect(blankCells({ ...facts, sheet: sheet([], undefined) })).toEqual([]);
  });
});

const OWN: TitleTemplate = {
  id: 'office',
  name: 'Office',
  place: 'corner',
  width: 120,
  height: 40,
  cells: [
    { left: 0, width: 60, bottom: 0, height: 20, text: '[sheet.date > date DD.MM.YYYY](? / [block.phase])' },
    { right: 0, width: 60, bottom: 0, height: 20, kind: 'scaleBar' },
    { left: 0, width: 60, top: 0, height: 20, kind: 'revisions', grows: 'up' },
    { right: 0, width: 60, top: 0, height: 20, kind: 'drawing', drawing: 'd' },
  ],
};

describe('a template of the office', () => {
  it('fills its cells with fields, steps and optional parts', () => {
    expect(texts(composed(sheet(['1:50'], { template: 'office', fields: {} }), [OWN]))).toContain('18.11.2026');
    const phased = sheet(['1:50'], { template: 'office', fields: { phase: 'B' } });
    expect(texts(composed(phased, [OWN]))).toContain('18.11.2026 / B');
  });

  it('shows a bar of round lengths at the scale of its views', () => {
    const made = composed(sheet(['1:50'], { template: 'office', fields: {} }), [OWN]);
    // 51.8 mm at 1:50 hold four parts of 0.5 m, each 10 mm long.
    expect(texts(made)).toEqual(expect.arrayContaining(['0', '1', '2 m']));
    expect(texts(composed(sheet(['1:50', '1:20'], { template: 'office', fields: {} }), [OWN]))).not.toContain('0');
  });

  it('lists revisions, the latest where the table grows to, the oldest left out where there is no room', () => {
    const revisions = Array.from({ length: 5 }, (_, i) => ({ index: `R${i}`, date: '2026-01-01', text: `Step ${i}` }));
    const made = composed(sheet([], { template: 'office', fields: {} }, { revisions }), [OWN]);
    const rows = made.page.texts.filter(({ text }) => /^(R\d|P03)$/.test(text));
    expect(rows.map(({ text }) => text)).toEqual(['R2', 'R3', 'R4', 'P03']);
    expect(rows.map(({ y }) => y)).toEqual([...rows.map(({ y }) => y)].sort((a, b) => a - b));
  });

  it('fits a drawing into a cell, and says so where it is not there', () => {
    const made = composed(sheet([], { template: 'office', fields: {} }), [OWN]);
    const clip = made.page.clips[0]?.[0]?.[0];
    expect(clip).toEqual([77_260, 3160, 82_940, 4840]);
    const gone = { ...OWN, cells: [{ ...OWN.cells[3]!, drawing: 'logo' }] };
    const { warnings } = composed(sheet([], { template: 'office', fields: {} }), [gone]);
    expect(warnings.map(({ code }) => code)).toEqual(['sheet.title-drawing']);
  });

  it('that is not there is said', () => {
    expect(() => composed(sheet([], { template: 'gone', fields: {} }))).toThrow(/no title-block template "gone"/);
  });

  it('comes with a job file, and is refused with its path where a text cannot be read', () => {
    const job = (text: string) => ({ folvex: 4, project: { titleBlocks: [{ ...OWN, cells: [{ text }] }] } });
    expect(jobFileFrom(job('[sheet.number]'))).toMatchObject({ ok: true });
    const refused = jobFileFrom(job('[sheet.number'));
    expect(refused.ok ? '' : refused.problems[0]!.place.path).toBe('project.titleBlocks[0].cells[0].text');
  });
});

describe('before a run', () => {
  const findings = (one: Sheet) => {
    const rules = { file: '[sheet.number]', folder: '', bundle: 'b' };
    const pack = { id: 'p', name: 'P', recipe: '', order: ['s'], bundling: 'one' as const, names: rules };
    const input = { project: PROJECT, groups: [], sheets: [one], package: pack, runDate: '2026-11-25' };
    return runChecks(input, outputPlan(input)).map(({ code, severity }) => `${severity} ${code}`);
  };

  it('blank cells are a warning, a template that is not there is a stop', () => {
    expect(findings(sheet([], { fields: { creator: 'X', approval: 'Y' } }))).toContain('warning title.blank');
    expect(findings(sheet([], { fields: { creator: 'X', approval: 'Y', type: 'Z' } }))).toEqual([]);
    expect(findings(sheet([], { template: 'gone', fields: {} }))).toContain('stop title.template');
  });
});
