import { TestBed } from '@angular/core/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatSelectHarness } from '@angular/material/select/testing';
import { ofType } from '@ngrx/effects';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { firstValueFrom, of, throwError } from 'rxjs';
import type { DeliveryInfo, RecipientPage, RecipientPageKey, RunInfo } from '@folvex/contract';
import type { Destination } from '@folvex/core';
import { HttpErrorResponse } from '@angular/common/http';
import { deliveryInWords, deliveryProblems, isPageOpen, pageInWords } from '../../src/deliveries/delivery-words';
import { DeliveryList } from '../../src/deliveries/delivery-list';
import { runSender } from '../../src/deliveries/send-run';
import { NoticeActions } from '../../src/state/notices/notices.actions';
import { ProjectActions } from '../../src/state/project/project.actions';
import { LookupActions } from '../../src/state/lookups/lookups.actions';
import { RunActions } from '../../src/state/runs/runs.actions';
import * as effects from '../../src/state/runs/runs.effects';
import { SessionActions } from '../../src/state/session/session.actions';
import { TransferActions } from '../../src/state/transfer/transfer.actions';
import { momentInWords } from '../../src/ui/words';
import { endEffects, runEffect } from '../support/effects';
import { enter } from '../support/panels';
import { all, show, text } from '../support/parts';
import { after } from '../support/state';

const delivery: DeliveryInfo = {
  ...{ id: 'd', location: 'sftp://files.example/in', startedBy: null, state: 'done', problem: null },
  ...{ createdAt: '2026-12-01T10:00:00Z', finishedAt: null, nextAttemptAt: null, page: null, plot: null },
  destination: { kind: 'server', server: 's', folder: 'in', onConflict: 'rename' },
  receipts: [
    { file: 0, at: '', outcome: { path: 'a.pdf', how: 'replaced' } },
    { file: 1, at: '', outcome: { path: 'b.pdf', how: 'new', older: 'b (2026-11-28).pdf' } },
  ],
};
const page: RecipientPage = {
  ...{ lastDay: '2026-12-15', expiresAt: '2026-12-16T12:00:00Z', closedAt: null, hasPassword: true },
  ...{ openings: 0, openedAt: null, downloaded: [], downloadedAt: null },
};
const away = { code: 'destination.copy' as const, sentence: 'a.pdf could not be delivered.', place: {} };
const run = {
  id: 'r',
  packageName: 'Permit',
  name: null,
  deliveries: [delivery],
  files: [{}, {}],
} as unknown as RunInfo;

describe('a delivery in words', () => {
  const said = (change: Partial<DeliveryInfo>, files = 2): string => deliveryInWords({ ...delivery, ...change }, files);

  it('says where how much arrived, and what became of older files', () => {
    expect(said({})).toBe('2 files at sftp://files.example/in, 1 of them replaced, 1 older file renamed.');
    const hash = { algorithm: 'SHA-256', hex: 'ab' } as const;
    const withHash = { file: 0, at: '', outcome: { path: 'a.pdf', how: 'new', hash } } as const;
    expect(said({ receipts: [withHash] }, 1)).toBe('1 file at sftp://files.example/in, verified by checksum.');
    expect(said({ receipts: [withHash, delivery.receipts[0]!] })).not.toContain('checksum');
    expect(said({ state: 'sending', receipts: delivery.receipts.slice(1) }, 3)).toBe(
      'Sending to sftp://files.example/in: 1 of 3 files.',
    );
    expect(said({ state: 'failed' }, 3)).toMatch(/^Failed: 2 of 3 files sent to sftp/);
    expect(said({ state: 'cancelled', receipts: [] })).toBe('Cancelled: 0 of 2 files sent to sftp://files.example/in.');
    const [first, second] = delivery.receipts;
    const leftOut = { ...second!, outcome: { path: 'B.pdf', how: 'left out' } } as const;
    const mail = { destination: { kind: 'mail' } as Destination, location: 'site@quay.example' };
    expect(said({ ...mail, receipts: [{ ...first!, outcome: { path: 'A.pdf', how: 'mailed' } }, leftOut] })).toBe(
      '1 of 2 files in an email to site@quay.example, the others are not for them.',
    );
    expect(said({ ...mail, receipts: [{ ...leftOut, file: 0 }, leftOut] })).toBe(
      'Nothing sent to site@quay.example: none of the files is for them.',
    );
  });

  it('says when a destination that is away is tried again', () => {
    const nextAttemptAt = '2026-12-01T10:05:00Z';
    expect(said({ state: 'waiting', nextAttemptAt, receipts: [] })).toBe(
      `sftp://files.example/in cannot be reached; the next attempt is at ${momentInWords(nextAttemptAt)}. Sent so far: 0 of 2 files.`,
    );
    expect(said({ state: 'waiting', location: null })).toBe('Waiting to be sent to the destination.');
  });

  it('says who got a mail, or is to get it', () => {
    const mail = { kind: 'mail', server: 'p', from: 'a@b.example', to: 'c@d.example', subject: '' } as const;
    const mailed = { destination: mail, location: 'c@d.example' };
    const receipts = [{ file: 0, at: '', outcome: { path: 'a.pdf', how: 'mailed' as const } }];
    expect(said({ ...mailed, receipts }, 1)).toBe('1 file in an email to c@d.example.');
    const nextAttemptAt = '2026-12-01T10:05:00Z';
    expect(said({ ...mailed, state: 'waiting', nextAttemptAt })).toBe(
      `The email to c@d.example could not be sent yet; the next attempt is at ${momentInWords(nextAttemptAt)}.`,
    );
  });

  it('says how far a plotter is, and what it took', () => {
    const plot = { pieces: 3, printed: 1, rollM: 2.345, areaM2: 1.4, cost: null, waitsFor: null };
    const said = (change: Partial<DeliveryInfo>): string =>
      deliveryInWords({ ...delivery, location: 'Roll plotter', plot, ...change }, 2);
    expect(said({ state: 'waiting' })).toBe('Printing on Roll plotter: 1 of 3 pieces.');
    expect(said({ state: 'sending', plot: { ...plot, waitsFor: 'out of paper' } })).toBe(
      'Printing on Roll plotter: 1 of 3 pieces. It waits: out of paper.',
    );
    expect(said({ state: 'cancelled' })).toBe('Cancelled: 1 of 3 pieces printed on Roll plotter.');
    expect(said({ state: 'failed' })).toBe('Failed: 1 of 3 pieces printed on Roll plotter.');
    expect(said({ plot: { ...plot, printed: 3, cost: 2.8 } })).toBe(
      '3 pieces of paper printed on Roll plotter: 2.35 m of roll, 1.40 m², about 2.80.',
    );
  });

  it('says what became of a recipient’s page', () => {
    const at = (minute: number): string => `2026-12-01T10:0${minute}:00Z`;
    const now = Date.parse(at(9));
    const said = (change: Partial<RecipientPage>): string => pageInWords({ ...page, ...change }, now);
    expect(said({})).toBe('Page open until 2026-12-15. Not opened yet.');
    expect(said({ openings: 1, openedAt: at(1) })).toBe(
      `Page open until 2026-12-15. Opened once, ${momentInWords(at(1))}; nothing downloaded.`,
    );
    const downloaded = { openings: 2, openedAt: at(1), downloaded: [0, 1], downloadedAt: at(2) };
    expect(said({ ...downloaded, closedAt: at(3) })).toBe(
      `Page closed on ${momentInWords(at(3))}. Opened 2 times, last ${momentInWords(at(1))}; 2 files downloaded, last ${momentInWords(at(2))}.`,
    );
    expect(said({ expiresAt: at(8) })).toBe('Page ended on 2026-12-15. Not opened yet.');
    expect([{}, { closedAt: at(3) }, { expiresAt: at(8) }].map((one) => isPageOpen({ ...page, ...one }, now))).toEqual([
      ...[true, false, false],
    ]);
  });

  it('says each trouble once, and none that is over', () => {
    const receipts = [0, 1].map((file) => ({ file, at: '', outcome: { problem: away } }));
    expect(deliveryProblems({ ...delivery, state: 'failed', problem: away, receipts })).toEqual([away.sentence]);
    expect(deliveryProblems({ ...delivery, problem: away })).toEqual([]);
  });
});

describe('the deliveries of a run', () => {
  async function shown(change: Partial<DeliveryInfo>) {
    const fixture = await show(DeliveryList, { run: { ...run, deliveries: [{ ...delivery, ...change }] } });
    const sent: Action[] = [];
    TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
    return { fixture, sent, buttons: all(fixture, 'button') };
  }
  const ids = { runId: 'r', deliveryId: 'd' };

  it('can be cancelled while they go on', async () => {
    const { fixture, sent, buttons } = await shown({ state: 'sending' });
    expect(all(fixture, 'mat-progress-bar')).toHaveLength(1);
    expect(buttons.map((button) => button.textContent!.trim())).toEqual(['Cancel']);
    buttons[0]!.click();
    expect(sent.at(-1)).toEqual(RunActions.deliveryCancelAskedFor(ids));
  });

  it('can be sent again where something did not arrive, and say why', async () => {
    const { fixture, sent, buttons } = await shown({ state: 'failed', problem: away });
    expect(text(fixture)).toContain(away.sentence);
    expect(buttons.map((button) => button.textContent!.trim())).toEqual(['Send again']);
    buttons[0]!.click();
    expect(sent.at(-1)).toEqual(RunActions.deliveryRepeatAskedFor(ids));
  });

  it('offer nothing where all has arrived', async () => {
    expect((await shown({})).buttons).toEqual([]);
  });
});

describe('a recipient’s page', () => {
  const key: RecipientPageKey = { link: 'https://plans.example/files/d.x', password: 'ab23-cd45-ef67' };
  const query = { run: 'r', delivery: 'd' };
  const lookup = `recipientPageKey ${JSON.stringify(query)}`;
  const owner = { id: 'o', email: 'o@office.example', name: 'Oda Vik', isOwner: true };
  const state = after(
    SessionActions.sessionArrived({ session: { office: true, account: owner, roles: {}, openId: null } }),
    ProjectActions.projectOpened({ projectId: '2617' }),
    LookupActions.lookupAskedFor({ key: lookup, kind: 'recipientPageKey', query }),
    LookupActions.answerArrived({ key: lookup, answer: key }),
  );
  const open = { ...page, expiresAt: '9999-12-31T00:00:00Z' };

  it('has its link and password to copy, and can be closed', async () => {
    const linked: RunInfo = { ...run, deliveries: [{ ...delivery, location: 'site@harbour.example', page: open }] };
    const fixture = await show(DeliveryList, { run: linked }, state);
    const loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Link …' }))).click();
    const dialog = document.querySelector('mat-dialog-container')!;
    expect(dialog.textContent).toContain('Page for site@harbour.example');
    expect([...dialog.querySelectorAll('code')].map(({ textContent }) => textContent)).toEqual([
      key.link,
      key.password,
    ]);
    const asked = firstValueFrom(TestBed.inject(MockStore).scannedActions$.pipe(ofType(RunActions.pageCloseAskedFor)));
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Close the page now' }))).click();
    expect(await asked).toMatchObject({ runId: 'r', deliveryId: 'd' });
  });

  it('is closed on the server', () => {
    const asked = RunActions.pageCloseAskedFor({ runId: 'r', deliveryId: 'd' });
    expect(runEffect(effects.closePage, { closeRecipientPage: () => of(run) }, asked)).toEqual([
      RunActions.runAdvanced({ run }),
    ]);
    endEffects();
  });
});

describe('sending a run', () => {
  it('asks for a destination, and sends only once there is one', async () => {
    const server = {
      id: 's',
      name: 'Engineer',
      address: 'sftp://files.example/in',
      user: '',
      hasSecret: true,
      fingerprint: null,
    };
    const state = after(
      ProjectActions.projectOpened({ projectId: '2617' }),
      TransferActions.serversArrived({ servers: [server] }),
    );
    const fixture = await show(DeliveryList, { run }, state);
    const loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
    const asked = firstValueFrom(TestBed.inject(MockStore).scannedActions$.pipe(ofType(RunActions.sendAskedFor)));
    TestBed.runInInjectionContext(runSender)(run);
    const send = await loader.getHarness(MatButtonHarness.with({ text: 'Send' }));
    expect(await send.isDisabled()).toBe(true);
    const [, serverChoice] = await loader.getAllHarnesses(MatSelectHarness);
    await serverChoice!.open();
    await serverChoice!.clickOptions({ text: 'Engineer' });
    expect(await send.isDisabled()).toBe(false);
    await send.click();
    expect(await asked).toMatchObject({ runId: 'r', destination: { kind: 'server', server: 's' } });
  });

  it('by mail asks for addresses, and offers mail servers only', async () => {
    const [files, post] = (['sftp://files.example/in', 'smtps://post.example'] as const).map((address, i) => ({
      ...{ id: `s${i}`, name: i === 0 ? 'Engineer' : 'Post', address, user: '', hasSecret: true, fingerprint: null },
    }));
    const state = after(
      ProjectActions.projectOpened({ projectId: '2617' }),
      TransferActions.serversArrived({ servers: [files!, post!] }),
    );
    const fixture = await show(DeliveryList, { run }, state);
    const loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
    TestBed.runInInjectionContext(runSender)(run);
    const [kind] = await loader.getAllHarnesses(MatSelectHarness);
    await kind!.open();
    await kind!.clickOptions({ text: 'Email' });
    const [, server, ...others] = await loader.getAllHarnesses(MatSelectHarness);
    expect(others).toEqual([]);
    await server!.open();
    expect(await Promise.all((await server!.getOptions()).map((option) => option.getText()))).toEqual(['Post']);
    await server!.clickOptions({ text: 'Post' });
    const send = await loader.getHarness(MatButtonHarness.with({ text: 'Send' }));
    const type = (caption: string, words: string): void => {
      const label = [...document.querySelectorAll('label')].find(({ textContent }) => textContent.trim() === caption)!;
      enter(label.control as HTMLInputElement, words);
    };
    type('From', 'drafting@office.example');
    type('To', 'site@harbour.example, nobody');
    expect(await send.isDisabled()).toBe(true);
    type('To', 'site@harbour.example, client@harbour.example');
    type('Largest email, MB', '25');
    expect(await send.isDisabled()).toBe(false);
    const asked = firstValueFrom(TestBed.inject(MockStore).scannedActions$.pipe(ofType(RunActions.sendAskedFor)));
    await send.click();
    expect((await asked).destination).toEqual({
      ...{ kind: 'mail', server: 's1', from: 'drafting@office.example', mostMb: 25 },
      ...{ to: 'site@harbour.example, client@harbour.example' },
      subject: '[project.number] [project.name]: [package.name]',
    });
  });

  it('follows the run that is sent, or says why it is not', () => {
    const { destination } = delivery;
    const asked = RunActions.sendAskedFor({ runId: 'r', destination });
    expect(runEffect(effects.send, { sendRun: () => of(run) }, asked)).toEqual([RunActions.deliveryBegun({ run })]);
    endEffects();
    const again = RunActions.deliveryRepeatAskedFor({ runId: 'r', deliveryId: 'd' });
    expect(runEffect(effects.send, { sendAgain: () => of(run) }, again)).toEqual([RunActions.deliveryBegun({ run })]);
    endEffects();
    const failing = { sendRun: () => throwError(() => new HttpErrorResponse({ status: 0 })) };
    const [failed] = runEffect(effects.send, failing, asked) as Action[];
    expect(failed!.type).toBe(NoticeActions.requestRefused.type);
    endEffects();
  });
});
