import { TestBed } from '@angular/core/testing';
import type { Action } from '@ngrx/store';
import { MockStore } from '@ngrx/store/testing';
import { of, throwError } from 'rxjs';
import type { Webhook, WebhookCall } from '@folvex/contract';
import { WebhooksPanel } from '../../../src/places/settings/webhooks-panel';
import { ProjectActions } from '../../../src/state/project/project.actions';
import { WebhookActions } from '../../../src/state/webhooks/webhooks.actions';
import * as effects from '../../../src/state/webhooks/webhooks.effects';
import { webhooksFeature } from '../../../src/state/webhooks/webhooks.reducer';
import { endEffects, runEffect } from '../../support/effects';
import { enter, field, press } from '../../support/panels';
import { all, show, text } from '../../support/parts';
import { after, type State } from '../../support/state';

const call = (id: string, change: Partial<WebhookCall>): WebhookCall => ({
  ...{ id, event: 'run.done', state: 'done', answer: 'Answered 204' },
  ...{ createdAt: '2026-11-25T10:00:00.000Z', nextAttemptAt: null },
  ...change,
});
const webhook: Webhook = {
  ...{ id: 'erp', name: 'Office', address: 'https://office.example/hook', topics: ['run', 'issue'] },
  calls: [
    call('c3', { state: 'waiting', answer: 'Answered 500', nextAttemptAt: '2026-11-25T10:05:00.000Z' }),
    call('c2', { event: 'issue.made', state: 'failed', answer: 'Answered 410' }),
    call('c1', {}),
  ],
};
const { name, address } = webhook;
const shownWith = (...actions: Action[]): State =>
  after(
    ProjectActions.projectOpened({ projectId: 'quay' }),
    WebhookActions.webhooksArrived({ webhooks: [webhook] }),
    ...actions,
  );

async function shown(state: State) {
  const fixture = await show(WebhooksPanel, {}, state);
  const sent: Action[] = [];
  TestBed.inject(MockStore).scannedActions$.subscribe((action) => sent.push(action));
  return { fixture, sent };
}

describe('webhooks', () => {
  it('are added, named, and told of what is chosen', async () => {
    const { fixture, sent } = await shown(shownWith());
    enter(field(fixture, 'Address'), 'https://office.example/in');
    expect(sent.at(-1)).toEqual(
      WebhookActions.webhookEdited({ id: 'erp', change: { address: 'https://office.example/in' } }),
    );
    enter(field(fixture, 'Address'), 'ftp://office.example');
    await fixture.whenStable();
    expect(text(fixture)).toContain('An address has the form https://host/path');
    const boxes = all(fixture, 'mat-checkbox input') as HTMLInputElement[];
    expect(boxes.map(({ checked }) => checked)).toEqual([true, false, true]);
    boxes[1]!.click();
    expect(sent.at(-1)).toEqual(
      WebhookActions.webhookEdited({ id: 'erp', change: { topics: ['run', 'delivery', 'issue'] } }),
    );
    press(fixture, 'Add a webhook');
    expect(sent.at(-1)).toMatchObject({ id: 'webhook-2', set: { topics: ['run', 'delivery', 'issue'] } });
  });

  it('keep the last topic that they are told of', async () => {
    const single = { ...webhook, topics: ['issue' as const] };
    const { fixture: one } = await shown(shownWith(WebhookActions.webhooksArrived({ webhooks: [single] })));
    expect((all(one, 'mat-checkbox input') as HTMLInputElement[]).map(({ disabled }) => disabled)).toEqual([
      ...[false, false, true],
    ]);
  });

  it('show what came of each message, and send again what failed', async () => {
    const { fixture, sent } = await shown(shownWith());
    const lines = all(fixture, 'li').map(({ textContent }) => textContent!.replace(/\s+/g, ' ').trim());
    expect(lines[0]).toMatch(/^Run published, .*Answered 500; next attempt /);
    expect(lines[1]).toMatch(/^Run issued, .*Answered 410 Send again$/);
    expect(lines[2]).toMatch(/Answered 204$/);
    press(fixture, 'Send again');
    expect(sent.at(-1)).toEqual(WebhookActions.callAskedForAgain({ id: 'erp', call: 'c2' }));
  });

  it('show a new secret once', async () => {
    const made = { webhooks: [webhook], secret: 'whsec_cXVheQ==' };
    const state = shownWith(WebhookActions.webhookChanged({ id: 'erp', changed: made }));
    expect(text((await shown(state)).fixture)).toContain('whsec_cXVheQ==');
    const kept = after(WebhookActions.webhookChanged({ id: 'erp', changed: made }), WebhookActions.webhooksAskedFor());
    expect(webhooksFeature.selectNewSecret(kept)).toBeNull();
  });

  it('are tried one at a time, and no longer once that is over', () => {
    const trying = WebhookActions.testAskedFor({ id: 'erp' });
    expect(webhooksFeature.selectTesting(shownWith(trying))).toBe('erp');
    const ended = WebhookActions.webhookChanged({ id: 'erp', changed: { webhooks: [webhook] } });
    for (const action of [ended, WebhookActions.changeFailed({ id: 'erp' })])
      expect(webhooksFeature.selectTesting(shownWith(trying, action))).toBeNull();
  });

  it('are read, changed, tried and removed on the server, each edit on what was saved before', () => {
    const asking: unknown[] = [];
    const changed = { webhooks: [webhook] };
    const answer = (...given: unknown[]) => (asking.push(given.slice(1)), of(changed));
    const api = {
      ...{ saveWebhook: answer, removeWebhook: answer, renewWebhookSecret: answer },
      ...{ testWebhook: answer, repeatWebhookCall: answer },
    };
    const there = WebhookActions.webhooksArrived({ webhooks: [webhook] });
    const set = { name, address, topics: webhook.topics };
    for (const action of [
      WebhookActions.webhookAdded({ id: 'erp', set }),
      WebhookActions.webhookEdited({ id: 'erp', change: { name: 'Other' } }),
      WebhookActions.webhookRemovalAskedFor({ id: 'erp' }),
      WebhookActions.secretAskedFor({ id: 'erp' }),
      WebhookActions.testAskedFor({ id: 'erp' }),
      WebhookActions.callAskedForAgain({ id: 'erp', call: 'c2' }),
    ]) {
      expect(runEffect(effects.changeWebhooks, api, there, action)).toEqual([
        WebhookActions.webhookChanged({ id: 'erp', changed }),
      ]);
      endEffects();
    }
    expect(asking).toEqual([
      ...[['erp', set], ['erp', { ...set, name: 'Other' }], ['erp'], ['erp'], ['erp'], ['erp', 'c2']],
    ]);
    // One that was removed while its name was typed is not set up again.
    const gone = WebhookActions.webhookEdited({ id: 'gone', change: { name: 'Other' } });
    expect(runEffect(effects.changeWebhooks, api, there, gone)).toEqual([]);
    endEffects();
    const refusing = { testWebhook: () => throwError(() => new Error('x')) };
    const [failed] = runEffect(
      effects.changeWebhooks,
      refusing,
      there,
      WebhookActions.testAskedFor({ id: 'erp' }),
    ) as Action[];
    expect(failed).toEqual(WebhookActions.changeFailed({ id: 'erp' }));
    endEffects();
    const listing = { webhooks: () => of([webhook]) };
    expect(runEffect(effects.fetchWebhooks, listing, there, WebhookActions.webhooksAskedFor())).toEqual([there]);
  });
});
