import { firstValueFrom } from 'rxjs';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import type { PackageChange, RunInfo } from '@folvex/contract';
import type { Finding, Fix, PrintedStamp, SheetPackage } from '@folvex/core';
import { Findings } from '../../../src/places/package/checks/findings';
import { DxfPanel } from '../../../src/places/package/output/dxf-panel';
import { OutputTree } from '../../../src/places/package/output/output-tree';
import { PaperPlacementPanel } from '../../../src/places/package/order/paper-placement';
import { PageOptionsBar } from '../../../src/places/package/order/page-options';
import { StampList } from '../../../src/places/package/order/stamp-list';
import type { StripPage } from '../../../src/state/packages/packages.selectors';
import { RunProgress } from '../../../src/places/package/run/run-progress';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialog } from '@angular/material/dialog';
import { MatDialogHarness } from '@angular/material/dialog/testing';
import { MatInputHarness } from '@angular/material/input/testing';
import { SettingsEditor } from '../../../src/state/project/settings-editor';
import { choose, enter, field, tick } from '../../support/panels';
import { all, show, text } from '../../support/parts';
import { sheet } from '../../support/sheet';

describe('the output tree', () => {
  const plan = 'A-101  Plan';
  const files = [
    { path: 'Plans/a.pdf', pages: [plan, plan] },
    { path: 'Plans/b.pdf', pages: [plan] },
    { path: '', pages: [plan] },
  ];

  it('shows folders, files, and the pages of a file that is opened', async () => {
    const fixture = await show(OutputTree, { files });
    expect(all(fixture, '.folder').map((folder) => folder.textContent)).toEqual(['Plans']);
    expect(all(fixture, '.name').map((name) => name.textContent!.trim())).toEqual(['a.pdf', 'b.pdf', 'no name']);
    expect(all(fixture, 'ol')).toHaveLength(0);
    all(fixture, 'button')[0]!.click();
    await fixture.whenStable();
    expect(all(fixture, 'ol li').map((page) => page.textContent)).toEqual([plan, plan]);
  });
});

describe('the checks', () => {
  it('say their severity in words, not by colour alone', async () => {
    const findings = [{ code: 'x', severity: 'stop', sentence: 'A name is blank.', place: {} }];
    expect(text(await show(Findings, { findings }))).toContain('stop: A name is blank.');
  });

  it('say that all is well', async () => {
    expect(text(await show(Findings, { findings: [] }))).toContain('in order');
  });
});

describe('a finding', () => {
  const finding: Finding = {
    ...{ code: 'sheet.empty', severity: 'warning', sentence: 'Nothing is drawn on A-101.' },
    ...{ place: { sheet: 'A-101' }, about: 's0', fix: { words: 'Remove it', takeOut: 's0', keepFirst: false } },
  };
  const press = (fixture: ComponentFixture<unknown>, words: string): void =>
    all(fixture, 'button')
      .find((button) => button.textContent!.includes(words))!
      .click();

  it('offers what mends it, the way to its sheet, and to accept it with a reason only', async () => {
    const fixture = await show(Findings, { findings: [finding] });
    const [fixes, accepted]: [Fix[], string[]] = [[], []];
    fixture.componentInstance.fixed.subscribe((fixed) => fixes.push(...fixed));
    fixture.componentInstance.accepted.subscribe(({ reason }) => accepted.push(reason));
    press(fixture, 'Remove it');
    expect(fixes).toEqual([finding.fix]);
    expect(all(fixture, 'a')[0]!.getAttribute('href')).toBe('/projects/2617/sheets/s0');
    press(fixture, 'Accept …');
    await fixture.whenStable();
    const reason = all(fixture, 'input')[0] as HTMLInputElement;
    enter(reason, '  ');
    expect(accepted).toEqual([]);
    enter(reason, ' Drawn by hand ');
    expect(accepted).toEqual(['Drawn by hand']);
  });

  it('that is accepted says why, and accepting is undone', async () => {
    const fixture = await show(Findings, { findings: [{ ...finding, accepted: 'Drawn by hand' }] });
    const reasons: string[] = [];
    fixture.componentInstance.accepted.subscribe(({ reason }) => reasons.push(reason));
    expect(text(fixture)).toContain('Accepted: Drawn by hand');
    press(fixture, 'Undo accepting');
    expect(reasons).toEqual(['']);
  });

  it('of a page that the package adds has no sheet to open', async () => {
    expect(all(await show(Findings, { findings: [finding], added: ['s0'] }), 'a')).toEqual([]);
  });

  it('of which there are many is one row that opens, and is accepted with one reason', async () => {
    const findings = [1, 2, 3].map((n) => ({
      ...{ ...finding, about: `s${n}`, sentence: `Nothing is drawn on A-10${n}.` },
      fix: { words: 'Remove it', takeOut: `s${n}`, keepFirst: false },
    }));
    const fixture = await show(Findings, { findings });
    const accepted: [number, string][] = [];
    const fixes: Fix[] = [];
    fixture.componentInstance.fixed.subscribe((fixed) => fixes.push(...fixed));
    fixture.componentInstance.accepted.subscribe(({ findings: all, reason }) => accepted.push([all.length, reason]));
    expect(text(fixture)).toContain('3 places');
    expect(text(fixture)).not.toContain('A-101');
    press(fixture, '3 places');
    await fixture.whenStable();
    expect(text(fixture)).toContain('Nothing is drawn on A-102.');
    press(fixture, 'Fix all');
    expect(fixes).toHaveLength(3);
    press(fixture, 'Accept all …');
    await fixture.whenStable();
    enter(all(fixture, 'input')[0] as HTMLInputElement, 'Drawn by hand');
    expect(accepted).toEqual([[3, 'Drawn by hand']]);
  });

  it('that stops cannot be accepted', async () => {
    const fixture = await show(Findings, { findings: [{ ...finding, severity: 'stop' }] });
    expect(text(fixture)).not.toContain('Accept');
  });
});

describe('the latest run', () => {
  const made = { startedAt: null, worker: null, content: null };
  const took = { startedAt: null, milliseconds: null };
  const run: RunInfo = {
    id: 'r',
    packageId: 'p',
    packageName: 'Permit',
    name: null,
    startedBy: null,
    state: 'running',
    createdAt: '2026-11-25T10:00:00.000Z',
    finishedAt: null,
    deliveries: [],
    problem: null,
    removedAt: null,
    sheets: [
      { ...{ sheetId: 'a', number: 'A-1', title: '', state: 'done', milliseconds: 5, problem: null }, ...made },
      { ...{ sheetId: 'b', number: 'A-2', title: '', state: 'waiting', milliseconds: null, problem: null }, ...made },
    ],
    files: [],
  };

  it.each([
    [null, false],
    ['Mara', true],
  ])('says who started it, where people sign in: %s', async (startedBy, isSaid) => {
    const done = { ...run, state: 'done', finishedAt: run.createdAt } as const;
    const fixture = await show(RunProgress, { run: { ...done, startedBy } });
    expect(text(fixture).includes(', by Mara')).toBe(isSaid);
    expect(text(fixture).includes(', by ')).toBe(isSaid);
  });

  it('shows how far it is, and can be cancelled', async () => {
    const fixture = await show(RunProgress, { run });
    let cancelled = 0;
    fixture.componentInstance.cancelled.subscribe(() => cancelled++);
    expect(text(fixture)).toContain('1 of 2 sheets done');
    all(fixture, 'button')[0]!.click();
    expect(cancelled).toBe(1);
  });

  it('says about how long the rest takes, by what is made', async () => {
    const sheets = [0, 1, 2, 3].map((i) => ({
      ...run.sheets[0]!,
      id: `s${i}`,
      ...(i > 1 && { state: 'waiting' as const }),
    }));
    const now = jest.spyOn(Date, 'now').mockReturnValue(Date.parse(run.createdAt) + 20_000);
    expect(text(await show(RunProgress, { run: { ...run, sheets } }))).toContain('2 of 4 sheets done, about 20 s left');
    now.mockRestore();
  });

  it('shows what was written, and what failed with its reason', async () => {
    const failed = { code: 'sheet.failed' as const, sentence: 'It shows nothing.', place: {} };
    const done: RunInfo = {
      ...run,
      state: 'failed',
      finishedAt: '2026-11-25T10:00:02.500Z',
      problem: { code: 'run.partial', sentence: 'One sheet could not be made.', place: {} },
      sheets: [run.sheets[0]!, { ...run.sheets[1]!, state: 'failed', problem: failed }],
      files: [
        {
          path: 'a.pdf',
          pages: 1,
          bytes: 2_000_000,
          format: null,
          sha256: '',
          sheets: ['a'],
          proof: null,
          ...took,
        },
      ],
    };
    const words = text(await show(RunProgress, { run: done }));
    expect(words).toContain('1 file, 2.0 MB, in 2.5 s');
    expect(words).toContain('A-2 It shows nothing.');
  });

  it('says what reading the files again found, and offers to try what failed', async () => {
    const proof = { pages: 1, characters: 120, fonts: 1, layers: 3, links: 2, measured: 1, differences: [] };
    const file = {
      path: 'a.pdf',
      format: null,
      pages: 1,
      bytes: 10,
      sha256: '',
      sheets: ['a'],
      ...took,
    };
    const shown = (differences: string[]) =>
      show(RunProgress, {
        run: {
          ...run,
          state: 'failed',
          files: [{ ...file, proof: { ...proof, differences } }],
          sheets: [{ ...run.sheets[1]!, state: 'failed' }],
        },
      });
    const good = await shown([]);
    expect(text(good)).toContain('found as it should be: 1 page, 120 characters, 2 links, 1 view to scale.');
    let again = 0;
    good.componentInstance.again.subscribe(() => again++);
    all(good, 'button')
      .find((button) => button.textContent!.includes('again'))!
      .click();
    expect(again).toBe(1);
    TestBed.resetTestingModule();
    expect(text(await shown(['Page 1 measures 10 mm.']))).toContain('a.pdf: Page 1 measures 10 mm.');
  });
});

describe('stamps', () => {
  const stamp: PrintedStamp = { text: 'HELD', at: 'top', size: 5, colour: 0 };
  const edited = async (stamps: PrintedStamp[], act: (fixture: ComponentFixture<StampList>) => unknown) => {
    TestBed.resetTestingModule();
    const fixture = await show(StampList, { stamps });
    const changes: PrintedStamp[][] = [];
    fixture.componentInstance.changed.subscribe((now) => changes.push(now));
    await act(fixture);
    return changes;
  };
  const type = (fixture: ComponentFixture<StampList>, caption: string, value: string): void =>
    enter(all(fixture, `[aria-label="${caption}"]`)[0] as HTMLInputElement, value);

  it('are added, changed, and removed, also by clearing their text', async () => {
    const [added] = await edited([], (fixture) => all(fixture, 'button')[0]!.click());
    expect(added).toMatchObject([{ text: 'PRELIMINARY [run.date]', at: 'top' }]);
    const sized = await edited([stamp], (fixture) => type(fixture, 'Height of the stamp', '7,5'));
    expect(sized).toEqual([[{ ...stamp, size: 7.5 }]]);
    const tooLarge = await edited([stamp], async (fixture) => {
      type(fixture, 'Height of the stamp', '700');
      await fixture.whenStable();
      expect(text(fixture)).toContain('Type a number from 1 to 100.');
    });
    expect(tooLarge).toEqual([]);
    const placed = await edited([stamp], (fixture) => choose(fixture, 'Position of the stamp', 'lower edge'));
    expect(placed).toEqual([[{ ...stamp, at: 'bottom' }]]);
    const gone = await edited([stamp], (fixture) => type(fixture, 'Text of the stamp', ' '));
    expect(gone).toEqual([[]]);
  });

  it('are printed under the drawing or over it', async () => {
    const under = (fixture: ComponentFixture<StampList>): Promise<void> => tick(fixture, 'under the drawing');
    expect(await edited([stamp], under)).toEqual([[{ ...stamp, under: true }]]);
    expect(await edited([{ ...stamp, under: true }], under)).toEqual([[stamp]]);
  });

  it('of one page are kept with that page, and leave no trace once they are gone', async () => {
    const page: StripPage = { id: 'a', sheet: sheet('1:50'), options: { stamps: [stamp] }, byRule: false };
    const pack = { id: 'p', pages: { a: { stamps: [stamp] }, b: { copies: 2 } } } as unknown as SheetPackage;
    const fixture = await show(PageOptionsBar, { page, pages: [page], pack });
    const said: unknown[] = [];
    fixture.componentInstance.changed.subscribe((change) => said.push(change));
    expect(text(fixture)).toContain('Stamps on this page: 1');
    all(fixture, 'fx-stamp-list button')[0]!.click();
    expect(said).toEqual([{ pages: { b: { copies: 2 } } }]);
  });
});

describe('the DXF files of a package', () => {
  it('have settings where there are such files, and only what differs from the default is stated', async () => {
    const changes: PackageChange[] = [];
    const pack = (extraFormats: SheetPackage['extraFormats']) => ({ id: 'p', extraFormats }) as unknown as SheetPackage;
    const fixture = await show(DxfPanel, { pack: pack({ formats: ['png'] }) });
    fixture.componentInstance.changed.subscribe((change) => changes.push(change));
    expect(text(fixture)).toBe('');
    fixture.componentRef.setInput('pack', pack({ formats: ['dxf'], dxfUnit: 'm' }));
    await fixture.whenStable();
    expect(text(fixture)).toContain('DXF files: as on paper, m');
    await choose(fixture, 'Size', 'true size, whole sheet');
    await choose(fixture, 'Unit', 'mm');
    expect(changes).toEqual([
      { extraFormats: { formats: ['dxf'], dxfUnit: 'm', dxfSize: 'sheet' } },
      { extraFormats: { formats: ['dxf'] } },
    ]);
  });
});

describe('the exchange settings of a project', () => {
  const engineer = { id: 'engineer', name: 'Engineer', dxfSize: 'model', dxfVersion: 'R12' };

  it('are taken over as a whole, and kept under a name, in place of another one of that name', async () => {
    const changeFacts = jest.fn();
    const pack = { id: 'p', extraFormats: { formats: ['dxf'], dxfUnit: 'm' } } as unknown as SheetPackage;
    const fixture = await show(DxfPanel, { pack }, undefined, [
      { provide: SettingsEditor, useValue: { facts: () => ({ exchanges: [engineer] }), changeFacts } },
    ]);
    const changes: PackageChange[] = [];
    fixture.componentInstance.changed.subscribe((change) => changes.push(change));
    all(fixture, 'mat-expansion-panel-header')[0]!.click();
    await fixture.whenStable();
    await choose(fixture, 'Exchange setting', 'Engineer');
    expect(changes).toEqual([{ extraFormats: { formats: ['dxf'], dxfSize: 'model', dxfVersion: 'R12' } }]);

    const keep = async (name: string): Promise<void> => {
      all(fixture, 'button')
        .find((button) => button.textContent!.includes('Save as'))!
        .click();
      const dialog = await TestbedHarnessEnvironment.documentRootLoader(fixture).getHarness(MatDialogHarness);
      await (await dialog.getHarness(MatInputHarness)).setValue(name);
      const closed = firstValueFrom(TestBed.inject(MatDialog).afterAllClosed);
      await (await dialog.getHarness(MatButtonHarness.with({ text: 'Save' }))).click();
      await closed;
    };
    await keep('Surveyor');
    const surveyor = { id: 'surveyor', name: 'Surveyor', dxfUnit: 'm' };
    expect(changeFacts).toHaveBeenLastCalledWith({ exchanges: [engineer, surveyor] });
    await keep('ENGINEER');
    expect(changeFacts).toHaveBeenLastCalledWith({ exchanges: [{ id: 'engineer', name: 'ENGINEER', dxfUnit: 'm' }] });
  });
});

describe('the placement of a page on paper', () => {
  it('is said above its fields, and only what differs from the default is stated', async () => {
    const changes: unknown[] = [];
    const fixture = await show(PaperPlacementPanel, { options: {} });
    fixture.componentInstance.changed.subscribe((change) => changes.push(change));
    expect(text(fixture)).toContain('Placement');
    fixture.componentRef.setInput('options', { percent: 50, corner: 'lower-left', offsetX: 5 });
    await fixture.whenStable();
    expect(text(fixture)).toContain('Placement: 50 %, lower left corner, offset 5, 0 mm');
    all(fixture, 'mat-expansion-panel-header')[0]!.click();
    await fixture.whenStable();
    enter(field(fixture, 'Size, %'), '70,7');
    enter(field(fixture, 'Offset x, mm'), '');
    await choose(fixture, 'Position', 'in the middle');
    expect(changes).toEqual([{ percent: 70.7 }, { offsetX: undefined }, { corner: undefined }]);
  });

  it('says what the pictures of the page take, as the recipe has them and at a resolution of its own', async () => {
    const pictures = [{ key: 'a', bytes: 9_000_000, dpi: 300 }];
    const fixture = await show(PaperPlacementPanel, { options: {}, pictures, recipeDpi: 100 });
    all(fixture, 'mat-expansion-panel-header')[0]!.click();
    await fixture.whenStable();
    expect(text(fixture)).toContain('Pictures take about 1.0 MB at 100 dpi, as the recipe has them.');
    fixture.componentRef.setInput('options', { pictureDpi: 200 });
    await fixture.whenStable();
    expect(text(fixture)).toContain(
      'Pictures take about 4.0 MB at 200 dpi; about 1.0 MB at 100 dpi, as the recipe has them.',
    );
  });

  it('of one page goes to all', async () => {
    const page = { id: 'a', sheet: sheet('a'), options: { percent: 50, copies: 2 } } as unknown as StripPage;
    const other = { id: 'b', sheet: sheet('b'), options: {} } as unknown as StripPage;
    const pack = { id: 'p', pages: { a: page.options, b: { colour: 'black', offsetX: 3 } } } as unknown as SheetPackage;
    const fixture = await show(PageOptionsBar, { page, pages: [page, other], pack });
    const said: unknown[] = [];
    fixture.componentInstance.changed.subscribe((change) => said.push(change));
    all(fixture, 'button')
      .find((button) => button.textContent!.includes('Place all pages like this'))!
      .click();
    expect(said).toEqual([{ pages: { a: { percent: 50, copies: 2 }, b: { colour: 'black', percent: 50 } } }]);
  });
});
