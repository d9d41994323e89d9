import { createFeature, createReducer, on } from '@ngrx/store';
import type { Webhook } from '@folvex/contract';
import { ProjectActions } from '../project/project.actions';
import { WebhookActions } from './webhooks.actions';

export interface WebhooksState {
  /** Null until they arrive. */
  webhooks: Webhook[] | null;
  /** The secret that was just made, and of which one: it is shown this once. */
  newSecret: { id: string; secret: string } | null;
  /** Id of the one that is being tried; null: none is. */
  testing: string | null;
}

const initial: WebhooksState = { webhooks: null, newSecret: null, testing: null };

export const webhooksFeature = createFeature({
  name: 'webhooks',
  reducer: createReducer(
    initial,
    on(ProjectActions.projectOpened, () => initial),
    on(WebhookActions.webhooksAskedFor, (state): WebhooksState => ({ ...state, newSecret: null })),
    on(WebhookActions.webhooksArrived, (state, { webhooks }): WebhooksState => ({ ...state, webhooks })),
    on(WebhookActions.testAskedFor, (state, { id }): WebhooksState => ({ ...state, testing: id })),
    on(
      WebhookActions.webhookChanged,
      ({ newSecret, testing }, { id, changed: { webhooks, secret } }): WebhooksState => ({
        webhooks,
        newSecret: secret === undefined ? newSecret : { id, secret },
        testing: testing === id ? null : testing,
      }),
    ),
    on(WebhookActions.changeFailed, (state): WebhooksState => ({ ...state, testing: null })),
  ),
});
