import { HttpErrorResponse } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { of, throwError } from 'rxjs';
import type { RecipientPageContent } from '@folvex/contract';
import { RecipientFilesPage } from '../../src/app/recipient-files';
import { RecipientFilesActions } from '../../src/state/recipient-files/recipient-files.actions';
import * as effects from '../../src/state/recipient-files/recipient-files.effects';
import { endEffects, runEffect } from '../support/effects';
import { enter, field, press } from '../support/panels';
import { all, show, text } from '../support/parts';
import { after } from '../support/state';

const content: RecipientPageContent = {
  ...{
    projectNumber: '2617',
    projectName: 'Ferry Terminal',
    packageName: 'Permit',
    publishedAt: '2026-12-01T10:00:00Z',
  },
  ...{ from: 'drafting@office.example', to: 'site@harbour.example', lastDay: '2026-12-15' },
  files: [
    { position: 0, path: 'Plans/A-101.pdf', bytes: 12_000, pages: 1 },
    { position: 2, path: 'A-101.dxf', bytes: 3000, pages: 0 },
  ],
};
const problem = (code: 'page.password' | 'page.ended', sentence: string) => ({ code, sentence, place: {} });

async function shown(...actions: Action[]) {
  const fixture = await show(RecipientFilesPage, { link: 'd.x' }, after(...actions));
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
}

describe('what somebody was sent', () => {
  it('lists the files, each to download, and all of them', async () => {
    const { fixture, sent } = await shown(RecipientFilesActions.pageArrived({ content }));
    expect(sent).toContainEqual(RecipientFilesActions.pageAskedFor({ link: 'd.x' }));
    expect(text(fixture)).toContain('Available until 2026-12-15. drafting@office.example can see');
    const links = all(fixture, 'a').map((link) => [link.getAttribute('href'), link.textContent?.trim()]);
    expect(links).toEqual([
      ['/api/recipient-pages/d.x/files/0', ''],
      ['/api/recipient-pages/d.x/files/2', ''],
      ['/api/recipient-pages/d.x/files.zip', 'Download all, 2 files, 15 kB'],
    ]);
    const cells = all(fixture, 'tbody td').map((cell) => cell.textContent?.trim());
    expect(cells).toEqual(['Plans/A-101.pdf', '1', '12 kB', '', 'A-101.dxf', '', '3 kB', '']);
  });

  it('asks for a password, and says so where it was wrong', async () => {
    const asks = RecipientFilesActions.pageRefused({ problem: problem('page.password', 'The password is wrong.') });
    const { fixture, sent } = await shown(asks);
    expect(text(fixture)).not.toContain('wrong');
    enter(field(fixture, 'Password'), 'ab23');
    press(fixture, 'Show files');
    await fixture.whenStable();
    expect(sent.at(-1)).toEqual(RecipientFilesActions.pageAskedFor({ link: 'd.x', password: 'ab23' }));
    expect(text(fixture)).toContain('The password is wrong.');
  });

  it('says why there is nothing any more', async () => {
    const { fixture } = await shown(
      RecipientFilesActions.pageRefused({ problem: problem('page.ended', 'It has ended.') }),
    );
    expect(text(fixture)).toContain('It has ended.');
    expect(all(fixture, 'input, button')).toEqual([]);
    TestBed.resetTestingModule();
    const away = { code: 'offline', sentence: 'The server does not answer.', place: {} } as const;
    const { fixture: retried, sent } = await shown(RecipientFilesActions.pageRefused({ problem: away }));
    press(retried, 'Try again');
    expect(sent.filter(({ type }) => type === RecipientFilesActions.pageAskedFor.type)).toHaveLength(2);
  });

  it('comes from the server, or says why it does not', () => {
    const asked = RecipientFilesActions.pageAskedFor({ link: 'd.x' });
    expect(runEffect(effects.openPage, { openRecipientPage: () => of(content) }, asked)).toEqual([
      RecipientFilesActions.pageArrived({ content }),
    ]);
    endEffects();
    const failing = { openRecipientPage: () => throwError(() => new HttpErrorResponse({ status: 0 })) };
    expect((runEffect(effects.openPage, failing, asked) as Action[])[0]!.type).toBe(
      RecipientFilesActions.pageRefused.type,
    );
    endEffects();
  });
});
