import type { PlanInput, Sheet, SheetPackage } from '../../src/index';

/** A sheet with nothing on it. */
export function sheet(id: string, number: string, more: Partial<Sheet> = {}): Sheet {
  const paper = { name: 'A1', orientation: 'landscape' } as const;
  return {
    id,
    number,
    title: `Title ${number}`,
    group: 'g',
    paper,
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [],
    ...more,
  };
}

/** A package of three sheets that are published one by one. */
export function input(
  pack: Partial<SheetPackage>,
  sheets = [sheet('a', 'A-101'), sheet('b', 'A-102'), sheet('c', 'A-201', { group: 'h' })],
): PlanInput {
  return {
    project: { number: '2617', name: 'Terminal', client: '', fields: {} },
    groups: [
      { id: 'g', name: 'Plans' },
      { id: 'h', name: 'Elevations' },
    ],
    sheets,
    package: {
      id: 'p',
      name: 'Permit',
      recipe: '',
      order: sheets.map(({ id }) => id),
      bundling: 'sheet',
      names: { file: '[sheet.number]', folder: '', bundle: '[package.name](? [group.name])' },
      ...pack,
    },
    runDate: '2026-11-25',
  };
}
