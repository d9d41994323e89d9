import { JOB_FILE_VERSION, jobFileFrom, PACKAGE_UPGRADES, upgradeJobFile } from '../../src/index';

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
    destinations: [{ kind: 'folder', folder: 'out', onConflict: 'both' }],
  });
  // The file itself is not changed.
  expect(OLD_PACKAGE.destination).toEqual({ folder: 'out', there: 'both' });
});

it('reads a job file of version 2, in which a destination was always a folder', () => {
  const pack = { id: 'p', name: 'Permit', destination: { folder: 'out', onConflict: 'replace' } };
  const read = jobFileFrom({ folvex: 2, project: { number: '1', name: 'Quay' }, packages: [pack] });
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  expect(read.job.packages[0]!.destinations).toEqual([{ kind: 'folder', folder: 'out', onConflict: 'replace' }]);
});

it('refuses the old names in a file of today', () => {
  const today = { folvex: JOB_FILE_VERSION, project: { number: '1', name: 'Quay' }, packages: [OLD_PACKAGE] };
  expect(JSON.stringify(jobFileFrom(today))).toContain(
    'packages[0].beside, packages[0].destination is not known in a job file',
  );
});

it('leaves files of today alone, and packages without those parts', () => {
  const today = { folvex: JOB_FILE_VERSION, packages: [OLD_PACKAGE] };
  expect(upgradeJobFile(today)).toBe(today);
  const later = { folvex: JOB_FILE_VERSION + 1 };
  expect(upgradeJobFile(later)).toBe(later);
  expect(upgradeJobFile({ folvex: 1, packages: 'none' })).toEqual({ folvex: JOB_FILE_VERSION, packages: 'none' });
  const plain = { id: 'p', order: [] };
  expect(PACKAGE_UPGRADES.map((upgrade) => upgrade(plain))).toEqual(PACKAGE_UPGRADES.map(() => plain));
});
