import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Webhook, WebhookChange, WebhooksChanged } from '@folvex/contract';

/** The webhooks of the open project. */
export const WebhookActions = createActionGroup({
  source: 'Webhooks',
  events: {
    'Webhooks asked for': emptyProps(),
    'Webhooks arrived': props<{ webhooks: Webhook[] }>(),
    'Webhook added': props<{ id: string; set: WebhookChange }>(),
    /** `change`: only what was typed. */
    'Webhook edited': props<{ id: string; change: Partial<WebhookChange> }>(),
    'Webhook removal asked for': props<{ id: string }>(),
    'Secret asked for': props<{ id: string }>(),
    'Test asked for': props<{ id: string }>(),
    'Call asked for again': props<{ id: string; call: string }>(),
    'Webhook changed': props<{ id: string; changed: WebhooksChanged }>(),
    'Change failed': props<{ id: string }>(),
  },
});
