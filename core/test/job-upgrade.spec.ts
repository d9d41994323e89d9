import { jobFileFrom, upgradeJobFile, upgradePackage } from '../src/index';

const OLD_PACKAGE = {
  id: 'p',
  name: 'Permit',
  order: [],
  beside: { formats: ['svg'], dpi: 150 },
  pages: { a: { beside: [], copies: 2 }, b: { skip: true } },
  destination: { folder: 'out', there: 'both' },
};

it('reads a job file of version 1: other formats and the conflict policy had other names', () => {
  const job = { folvex: 1, project: { number: '1', name: 'Quay' }, packages: [OLD_PACKAGE] };
  const read = jobFileFrom(job);
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  expect(read.job.packages[0]).toMatchObject({
    extraFormats: { formats: ['svg'], dpi: 150 },
    pages: { a: { extraFormats: [], copies: 2 }, b: { skip: true } },
    destination: { folder: 'out', onConflict: 'both' },
  });
  // The file itself is not changed.
  expect(OLD_PACKAGE.destination).toEqual({ folder: 'out', there: 'both' });
});

it('refuses the old names in a file of today', () => {
  const read = jobFileFrom({ folvex: 2, project: { number: '1', name: 'Quay' }, packages: [OLD_PACKAGE] });
  expect(read.ok).toBe(false);
  expect(JSON.stringify(read)).toContain('packages[0].beside is not known in a job file');
});

it('leaves alone what is no older file, and packages without those parts', () => {
  const today = { folvex: 2, packages: [OLD_PACKAGE] };
  expect(upgradeJobFile(today)).toBe(today);
  expect(upgradeJobFile({ folvex: 1, packages: 'none' })).toEqual({ folvex: 2, packages: 'none' });
  expect(upgradePackage({ id: 'p', order: [] })).toEqual({ id: 'p', order: [] });
});
