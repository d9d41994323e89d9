import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { provideEffects } from '@ngrx/effects';
import { provideStore, Store, type Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { of, Subject, throwError } from 'rxjs';
import type { SessionInfo, TransferServer, TransferServerChange, TransferStep } from '@folvex/contract';
import { TransferPanel } from '../../../src/places/settings/transfer-panel';
import { ProjectActions } from '../../../src/state/project/project.actions';
import { SessionActions } from '../../../src/state/session/session.actions';
import { OfficeApi } from '../../../src/state/office-api';
import { REDUCERS } from '../../../src/state/store';
import { serverWith } from '../../../src/state/transfer/server-with';
import { TransferActions } from '../../../src/state/transfer/transfer.actions';
import * as effects from '../../../src/state/transfer/transfer.effects';
import { transferFeature } from '../../../src/state/transfer/transfer.reducer';
import { endEffects, runEffect } from '../../support/effects';
import { choose, enter, field, press } from '../../support/panels';
import { all, show, text } from '../../support/parts';
import { after, type State } from '../../support/state';

const alone: SessionInfo = { office: false, account: null, roles: {}, openId: null };
const server: TransferServer = {
  ...{ id: 'engineer', name: 'Engineer', address: 'sftp://files.example/in', user: 'folvex' },
  ...{ hasSecret: true, fingerprint: 'SHA256:old' },
};
const asked: TransferStep = {
  ...{ name: 'host key', ok: false, milliseconds: 12 },
  ...{ sentence: 'Engineer shows another host key.', fingerprint: 'SHA256:ab/C+1' },
};
const shownWith = (...actions: Action[]): State =>
  after(
    SessionActions.sessionArrived({ session: alone }),
    ProjectActions.projectOpened({ projectId: 'quay' }),
    TransferActions.serversArrived({ servers: [server] }),
    ...actions,
  );

async function shown(state: State) {
  const fixture = await show(TransferPanel, {}, state);
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
}

const edited = (change: Partial<TransferServerChange>) => TransferActions.serverEdited({ id: 'engineer', change });
/** The server as it is saved. */
const SET = { name: 'Engineer', address: server.address, user: 'folvex', fingerprint: 'SHA256:old' };

describe('transfer servers', () => {
  it('keep their accepted host key until their host changes', async () => {
    const { fixture, sent } = await shown(shownWith());
    enter(field(fixture, 'Address'), 'sftp://files.example/out');
    expect(sent.at(-1)).toEqual(edited({ address: 'sftp://files.example/out' }));
    expect(serverWith(server, { address: 'sftp://files.example/out' }).fingerprint).toBe('SHA256:old');
    expect(serverWith(server, { address: 'sftp://elsewhere.example/in' }).fingerprint).toBeNull();
    enter(field(fixture, 'Address'), 'scp://elsewhere.example');
    await fixture.whenStable();
    expect(text(fixture)).toContain('An address has the form sftp://host/folder');
  });

  it('keep who opens the data connections, and the region of a bucket, in their address', async () => {
    const ftp = { ...server, address: 'ftps://files.example/in' };
    const arrived = (one: TransferServer) => shownWith(TransferActions.serversArrived({ servers: [one] }));
    const ofFtp = await shown(arrived(ftp));
    await choose(ofFtp.fixture, 'Data connections', 'Active: the server connects');
    expect(ofFtp.sent.at(-1)).toEqual(edited({ address: 'ftps://files.example/in?mode=active' }));
    TestBed.resetTestingModule();
    const back = await shown(arrived({ ...ftp, address: 'ftps://files.example/in?mode=active' }));
    await choose(back.fixture, 'Data connections', 'Passive: Folvex connects');
    expect(back.sent.at(-1)).toEqual(edited({ address: 'ftps://files.example/in' }));
    TestBed.resetTestingModule();
    const ofBucket = await shown(arrived({ ...server, address: 's3://files.example/plans' }));
    expect(text(ofBucket.fixture)).not.toContain('Data connections');
    enter(field(ofBucket.fixture, 'Region'), 'eu-central-1');
    expect(ofBucket.sent.at(-1)).toEqual(edited({ address: 's3://files.example/plans?region=eu-central-1' }));
  });

  it('that all projects have are changed by owners only, and have ids of their own', async () => {
    const archive = { ...server, id: 'office:server-1', name: 'Server 1' };
    const arrived = TransferActions.serversArrived({ servers: [server, archive] });
    const { fixture, sent } = await shown(shownWith(arrived));
    const names = all(fixture, 'section').map((section) => section.getAttribute('aria-label'));
    expect(names).toEqual(['Engineer', 'Server 1']);
    press(fixture, 'Add a server for all projects');
    expect(sent.at(-1)).toMatchObject({ id: 'office:server-2', set: { name: 'Server 2' } });
    const account = { id: 'l', name: 'Lena', email: 'lena@office.example', isOwner: false };
    const session: SessionInfo = { ...alone, office: true, account, roles: { quay: 'lead' } };
    TestBed.resetTestingModule();
    const ofLead = await shown(shownWith(SessionActions.sessionArrived({ session }), arrived));
    const fields = all(ofLead.fixture, 'section').map((section) => section.querySelectorAll('input').length);
    expect(fields[0]).toBeGreaterThan(0);
    expect(fields[1]).toBe(0);
    expect(text(ofLead.fixture)).not.toContain('Add a server for all projects');
  });

  it('of the office are saved and removed for all projects, and then listed again', () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    const [api, requests] = [TestBed.inject(OfficeApi), TestBed.inject(HttpTestingController)];
    const listed: TransferServer[][] = [];
    for (const [method, change] of [
      ['PUT', api.saveTransferServer('quay', 'office:archive', SET)],
      ['DELETE', api.removeTransferServer('quay', 'office:archive')],
    ] as const) {
      change.subscribe((servers) => listed.push(servers));
      requests.expectOne({ method, url: '/api/transfer-servers/office%3Aarchive' }).flush(null);
      requests.expectOne({ method: 'GET', url: '/api/projects/quay/transfer-servers' }).flush([server]);
    }
    expect(listed).toEqual([[server], [server]]);
  });

  it('ask for what a bucket is signed in to with', async () => {
    const bucket = { ...server, address: 's3://objects.example/plans/out', fingerprint: null };
    const { fixture, sent } = await shown(shownWith(TransferActions.serversArrived({ servers: [bucket] })));
    enter(field(fixture, 'Secret key'), 'quay 7');
    expect(sent.at(-1)).toEqual(edited({ secret: 'quay 7' }));
    expect(field(fixture, 'Access key').value).toBe('folvex');
    enter(field(fixture, 'Address'), 's3://objects.example');
    await fixture.whenStable();
    expect(text(fixture)).toContain('s3://host/bucket/folder, smtps://host for email');
  });

  it('send a password once, and show it no more', async () => {
    const { fixture, sent } = await shown(shownWith());
    expect(field(fixture, 'Password').placeholder).toBe('set; type to replace');
    enter(field(fixture, 'Password'), 'quay 7');
    expect(sent.at(-1)).toEqual(edited({ secret: 'quay 7' }));
    await fixture.whenStable();
    expect(field(fixture, 'Password').value).toBe('');
    enter(field(fixture, 'User'), 'other');
    expect(JSON.stringify(sent.at(-1))).not.toContain('secret');
  });

  it('show each step of a test, and offer to accept a host key that is new', async () => {
    const steps: TransferStep[] = [{ name: 'name', ok: true, milliseconds: 3, sentence: 'Found.' }, asked];
    const { fixture, sent } = await shown(shownWith(TransferActions.testEnded({ id: 'engineer', steps })));
    expect(all(fixture, 'li').map((line) => line.className)).toEqual(['', 'failed']);
    expect(text(fixture)).toContain('12 ms');
    press(fixture, 'Accept this host key');
    expect(sent.at(-1)).toEqual(edited({ fingerprint: 'SHA256:ab/C+1' }));
    press(fixture, 'Test');
    expect(sent.at(-1)).toEqual(TransferActions.testAskedFor({ id: 'engineer' }));
  });

  it('forget a test when something changes, and when it failed', () => {
    const ended = TransferActions.testEnded({ id: 'engineer', steps: [asked] });
    for (const action of [edited({ user: 'other' }), TransferActions.testFailed({ id: 'engineer' })])
      expect(transferFeature.selectTests(shownWith(ended, action))).toEqual({});
    expect(transferFeature.selectTests(shownWith(TransferActions.testAskedFor({ id: 'engineer' })))).toEqual({
      engineer: null,
    });
  });

  it('are read, changed and removed on the server', () => {
    const asking: unknown[] = [];
    const answer = (...given: unknown[]) => (asking.push(given.slice(1)), of([server]));
    const api = { transferServers: answer, saveTransferServer: answer, removeTransferServer: answer };
    const { id } = server;
    const there = TransferActions.serversArrived({ servers: [server] });
    for (const action of [
      TransferActions.serversAskedFor(),
      TransferActions.serverAdded({ id, set: SET }),
      edited({ user: 'other' }),
      TransferActions.serverRemovalAskedFor({ id }),
    ]) {
      expect(runEffect(effects.changeServers, api, there, action)).toEqual([
        TransferActions.serversArrived({ servers: [server] }),
      ]);
      endEffects();
    }
    expect(asking).toEqual([[], [id, SET], [id, { ...SET, user: 'other' }], [id]]);
    const failing = { testTransferServer: () => throwError(() => new Error('x')) };
    const [failed] = runEffect(effects.testServer, failing, TransferActions.testDue({ id })) as Action[];
    expect(failed).toEqual(TransferActions.testFailed({ id }));
  });

  it('are edited one field after the other, each on what was saved before, and tested after that', () => {
    const saved: TransferServerChange[] = [];
    const answers = [new Subject<TransferServer[]>(), new Subject<TransferServer[]>()];
    const tested = jest.fn(() => of([]));
    const api: Partial<OfficeApi> = {
      saveTransferServer: (_project, _id, set) => answers[saved.push(set) - 1]!,
      testTransferServer: tested,
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideStore(REDUCERS),
        provideEffects(effects),
        { provide: OfficeApi, useValue: api },
      ],
    });
    const store = TestBed.inject(Store);
    store.dispatch(TransferActions.serversArrived({ servers: [server] }));
    // All of it before the first answer.
    for (const change of [{ user: 'other' }, { secret: 'quay 7' }]) store.dispatch(edited(change));
    store.dispatch(TransferActions.testAskedFor({ id: server.id }));
    expect(saved).toEqual([{ ...SET, user: 'other' }]);
    const answer = (at: number): void => {
      answers[at]!.next([{ ...server, user: 'other' }]);
      answers[at]!.complete();
    };
    answer(0);
    expect(saved[1]).toEqual({ ...SET, user: 'other', secret: 'quay 7' });
    expect(tested).not.toHaveBeenCalled();
    answer(1);
    expect(tested).toHaveBeenCalledTimes(1);
  });
});
