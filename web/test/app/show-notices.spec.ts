import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MatIconRegistry } from '@angular/material/icon';
import { FakeMatIconRegistry } from '@angular/material/icon/testing';
import { MatSnackBar } from '@angular/material/snack-bar';
import { provideRouter, Router } from '@angular/router';
import type { Action } from '@ngrx/store';
import { MockStore, provideMockStore } from '@ngrx/store/testing';
import type { RunInfo } from '@folvex/contract';
import { tellRunEnds } from '../../src/app/run-ends';
import { showNotices } from '../../src/app/show-notices';
import { NoticeActions, type Notice } from '../../src/state/notices/notices.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { RunActions } from '../../src/state/runs/runs.actions';
import { after } from '../support/state';

const opened = ProjectActions.projectOpened({ projectId: '2617' });
const shown = (notice: Notice): Action => NoticeActions.noticeShown({ notice });
const done: Notice = { sentence: 'A-101 is removed.', failed: false };

function begin(listen: () => void) {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([]),
      provideMockStore({ initialState: after(opened) }),
      { provide: MatIconRegistry, useClass: FakeMatIconRegistry },
    ],
  });
  const store = TestBed.inject(MockStore);
  const sent: Action[] = [];
  store.scannedActions$.subscribe((action) => sent.push(action));
  const to = (...actions: Action[]): void => {
    store.setState(after(opened, ...actions));
    store.refreshState();
    TestBed.tick();
  };
  TestBed.runInInjectionContext(listen);
  TestBed.tick();
  return { sent, to };
}

const bars = (): string[] =>
  [...document.querySelectorAll('fx-notice p')].map((sentence) => sentence.textContent!.trim());
const press = (name: string): void =>
  [...document.querySelectorAll<HTMLElement>('fx-notice button')]
    .find((button) => button.textContent!.includes(name) || button.getAttribute('aria-label') === name)!
    .click();

describe('notices', () => {
  // Else its timer goes on after the test.
  afterEach(() => TestBed.inject(MatSnackBar).dismiss());

  it('are shown one at a time; the next one replaces the last', () => {
    const { to } = begin(showNotices);
    to(shown(done));
    expect(bars()).toEqual(['A-101 is removed.']);
    const open = jest.spyOn(TestBed.inject(MatSnackBar), 'openFromComponent');
    to(shown({ sentence: 'It is away.', failed: true }));
    expect(open.mock.calls[0]![1]).toMatchObject({ politeness: 'assertive', data: { sentence: 'It is away.' } });
    // What failed stays until it is dismissed.
    expect(open.mock.calls[0]![1]).not.toHaveProperty('duration');
  });

  it('offer an action of the store, such as undo', () => {
    const restore = RunActions.removalAskedFor({ runId: 'r', removed: false });
    const { to, sent } = begin(showNotices);
    to(shown({ ...done, action: { words: 'Undo', dispatch: restore } }));
    press('Undo');
    expect(sent).toContainEqual(restore);
  });

  it('lead somewhere by a link', () => {
    const { to } = begin(showNotices);
    const navigate = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    to(shown({ ...done, action: { words: 'Open', link: ['/projects', '2617', 'runs', 'r'] } }));
    press('Open');
    expect(navigate).toHaveBeenCalledWith(['/projects', '2617', 'runs', 'r']);
  });
});

describe('the end of a run', () => {
  const run = {
    ...{ id: 'r', packageId: 'p', packageName: 'Permit', state: 'running', createdAt: '2026-11-29', removedAt: null },
    ...{ files: [], problem: null, sheets: [], deliveries: [] },
  } as unknown as RunInfo;
  const file = { path: 'a.pdf', pages: 8, format: null } as RunInfo['files'][number];
  const notices = (sent: Action[]): Notice[] =>
    sent.flatMap((action) => (action.type === NoticeActions.noticeShown.type ? [(action as never)['notice']] : []));

  it('is told once, with the way to its files', () => {
    const { to, sent } = begin(tellRunEnds);
    to(RunActions.runBegun({ run }));
    const ended = RunActions.runAdvanced({ run: { ...run, state: 'done', files: [file, { ...file, format: 'dxf' }] } });
    to(RunActions.runBegun({ run }), ended);
    to(RunActions.runBegun({ run }), ended, NoticeActions.noticeDismissed());
    expect(notices(sent)).toEqual([
      {
        sentence: 'Permit is published: 2 files, 8 pages.',
        failed: false,
        action: { words: 'Open on the light table', link: ['/projects', '2617', 'runs', 'r'] },
      },
    ]);
  });

  it('that failed or was cancelled is told as such, without a way to files that are not there', () => {
    const problem = { code: 'run.partial' as const, sentence: 'One sheet could not be made.', place: {} };
    for (const [ended, sentence] of [
      [{ ...run, state: 'failed', problem }, 'Permit: One sheet could not be made.'],
      [{ ...run, state: 'cancelled' }, 'Permit was cancelled; nothing was written.'],
    ] as [RunInfo, string][]) {
      TestBed.resetTestingModule();
      const { to, sent } = begin(tellRunEnds);
      to(RunActions.runBegun({ run }));
      to(RunActions.runAdvanced({ run: ended }));
      expect(notices(sent)).toEqual([{ sentence, failed: true }]);
    }
  });

  it('that was over before is not told', () => {
    const { to, sent } = begin(tellRunEnds);
    to(RunActions.runAdvanced({ run: { ...run, state: 'done' } }));
    expect(notices(sent)).toEqual([]);
  });
});
