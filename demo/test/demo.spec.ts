import { readFileSync } from 'node:fs';
import { readJobFile, outputPlan, readDxf, runChecks, type JobFile } from '@folvex/core';
import { demoFiles } from '../src/index';

const stored = (path: string): string => readFileSync(new URL(`../${path}`, import.meta.url), 'utf8');
const files = Object.entries(demoFiles());
const read = readJobFile(stored('tern-quay.job.json'));
const job = (read.ok ? read.job : undefined) as JobFile;

describe('the demo project', () => {
  it.each(files)('%s is what the code draws', (path, text) => {
    expect(stored(path) === text).toBe(true);
  });

  it.each(files.filter(([path]) => path.endsWith('.dxf')))('%s is understood to its last entity', (path, text) => {
    const drawing = readDxf(new TextEncoder().encode(text), path);
    // The site plan refers to the survey, which is a drawing of the demo too.
    const warnings = path.endsWith('/site.dxf') ? [{ code: 'dxf.external', refersTo: 'survey.dxf' }] : [];
    expect(drawing).toMatchObject({ ok: true, warnings });
  });

  it('has nine sheets or more, on A1 and A3, at 1:500, 1:100, 1:50 and 1:20', () => {
    expect(job.sheets.length).toBeGreaterThanOrEqual(9);
    const papers = new Set(job.sheets.map(({ paper }) => (paper && 'name' in paper ? paper.name : '')));
    expect([...papers]).toEqual(expect.arrayContaining(['A1', 'A3']));
    const scales = new Set(job.sheets.flatMap(({ views }) => views.map(({ scale }) => scale)));
    expect([...scales]).toEqual(expect.arrayContaining(['1:500', '1:100', '1:50', '1:20']));
  });

  it('names only sheets that it has, on its marks', () => {
    const numbers = new Set(job.sheets.map(({ number }) => number));
    const named = files.flatMap(([, text]) => text.match(/\bA-\d{3}\b/g) ?? []);
    expect(named.length).toBeGreaterThan(10);
    expect(named.filter((number) => !numbers.has(number))).toEqual([]);
  });

  it.each(job.packages.map((pack) => [pack.name, pack] as const))('%s passes the checks', (_, pack) => {
    const input = { ...job, package: pack, runDate: '2026-11-25' };
    expect(runChecks(input, outputPlan(input))).toEqual([]);
  });
});
