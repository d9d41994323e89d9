import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import type { Webhook, WebhookChange, WebhooksChanged } from '@folvex/contract';
import { catchError, concatMap, EMPTY, map, merge, of, switchMap, take, type Observable } from 'rxjs';
import { OfficeApi } from '../office-api';
import { refused } from '../notices/refused';
import { projectFeature } from '../project/project.reducer';
import { WebhookActions } from './webhooks.actions';
import { webhooksFeature } from './webhooks.reducer';

export const fetchWebhooks = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(WebhookActions.webhooksAskedFor),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      switchMap(([, project]) =>
        api.webhooks(project).pipe(
          map((webhooks) => WebhookActions.webhooksArrived({ webhooks })),
          catchError(refused),
        ),
      ),
    ),
  { functional: true },
);

/** Changes webhooks one after the other, each edit on what was saved before, and tries them after that. */
export const changeWebhooks = createEffect(
  (actions = inject(Actions), api = inject(OfficeApi), store = inject(Store)) =>
    actions.pipe(
      ofType(
        WebhookActions.webhookAdded,
        WebhookActions.webhookEdited,
        WebhookActions.webhookRemovalAskedFor,
        WebhookActions.secretAskedFor,
        WebhookActions.testAskedFor,
        WebhookActions.callAskedForAgain,
      ),
      concatLatestFrom(() => store.select(projectFeature.selectId)),
      concatMap(([action, project]) =>
        store.select(webhooksFeature.selectWebhooks).pipe(
          take(1),
          switchMap((known) => requestFor(api, project, action, known ?? [])),
          map((changed) => WebhookActions.webhookChanged({ id: action.id, changed })),
          catchError((error: unknown) => merge(of(WebhookActions.changeFailed({ id: action.id })), refused(error))),
        ),
      ),
    ),
  { functional: true },
);

type Change = ReturnType<
  (typeof WebhookActions)[
    | 'webhookAdded'
    | 'webhookEdited'
    | 'webhookRemovalAskedFor'
    | 'secretAskedFor'
    | 'testAskedFor'
    | 'callAskedForAgain']
>;

function requestFor(
  api: OfficeApi,
  project: string,
  action: Change,
  known: readonly Webhook[],
): Observable<WebhooksChanged> {
  const { id } = action;
  switch (action.type) {
    case WebhookActions.webhookAdded.type:
      return api.saveWebhook(project, id, action.set);
    case WebhookActions.webhookEdited.type: {
      const webhook = known.find((one) => one.id === id);
      // It was removed while this was typed.
      return webhook ? api.saveWebhook(project, id, webhookWith(webhook, action.change)) : EMPTY;
    }
    case WebhookActions.webhookRemovalAskedFor.type:
      return api.removeWebhook(project, id);
    case WebhookActions.secretAskedFor.type:
      return api.renewWebhookSecret(project, id);
    case WebhookActions.testAskedFor.type:
      return api.testWebhook(project, id);
    case WebhookActions.callAskedForAgain.type:
      return api.repeatWebhookCall(project, id, action.call);
  }
}

function webhookWith({ name, address, topics }: Webhook, change: Partial<WebhookChange>): WebhookChange {
  return { name, address, topics, ...change };
}
