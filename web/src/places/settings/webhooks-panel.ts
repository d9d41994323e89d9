import { CdkCopyToClipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatDialog } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import {
  WEBHOOK_TOPICS,
  webhookSchema,
  type Webhook,
  type WebhookCall,
  type WebhookChange,
  type WebhookEvent,
  type WebhookTopic,
} from '@folvex/contract';
import { freeId } from '@folvex/core';
import { reach, type Schema } from 'yup';
import { TextField } from '../../forms/text-field';
import { WebhookActions } from '../../state/webhooks/webhooks.actions';
import { webhooksFeature } from '../../state/webhooks/webhooks.reducer';
import { confirm } from '../../ui/confirm';
import { momentInWords } from '../../ui/words';

const EVENT_WORDS: Readonly<Record<WebhookEvent, string>> = {
  'run.done': 'Run published',
  'run.failed': 'Run failed',
  'run.cancelled': 'Run cancelled',
  'delivery.done': 'Delivery arrived',
  'delivery.failed': 'Delivery failed',
  'delivery.cancelled': 'Delivery cancelled',
  'issue.made': 'Run issued',
  'webhook.test': 'Test',
};

const TOPICS = Object.entries(WEBHOOK_TOPICS) as [WebhookTopic, string][];

/** The addresses of other programs that are told what happens in the project. */
@Component({
  selector: 'fx-webhooks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CdkCopyToClipboard, MatButton, MatCheckbox, MatProgressBar, TextField],
  templateUrl: './webhooks-panel.html',
  styleUrls: ['./entries.scss', './webhooks-panel.scss'],
})
export class WebhooksPanel {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  private readonly found = this.store.selectSignal(webhooksFeature.selectWebhooks);
  protected readonly webhooks = computed(() => this.found() ?? []);
  protected readonly newSecret = this.store.selectSignal(webhooksFeature.selectNewSecret);
  protected readonly testing = this.store.selectSignal(webhooksFeature.selectTesting);
  protected readonly nameSchema = reach(webhookSchema, 'name') as Schema;
  protected readonly addressSchema = reach(webhookSchema, 'address') as Schema;
  protected readonly topics = TOPICS;

  constructor() {
    this.look();
  }

  protected look(): void {
    this.store.dispatch(WebhookActions.webhooksAskedFor());
  }

  protected add(): void {
    const name = `Webhook ${this.webhooks().length + 1}`;
    const set: WebhookChange = { name, address: 'https://program.example/hook', topics: TOPICS.map(([id]) => id) };
    this.store.dispatch(WebhookActions.webhookAdded({ id: freeId(name, this.webhooks()), set }));
  }

  protected change({ id }: Webhook, change: Partial<WebhookChange>): void {
    this.store.dispatch(WebhookActions.webhookEdited({ id, change }));
  }

  protected tell(webhook: Webhook, topic: WebhookTopic, isTold: boolean): void {
    const topics = TOPICS.map(([id]) => id).filter((id) => (id === topic ? isTold : webhook.topics.includes(id)));
    this.change(webhook, { topics });
  }

  protected test({ id }: Webhook): void {
    this.store.dispatch(WebhookActions.testAskedFor({ id }));
  }

  protected again({ id }: Webhook, call: WebhookCall): void {
    this.store.dispatch(WebhookActions.callAskedForAgain({ id, call: call.id }));
  }

  protected renew({ id, name }: Webhook): void {
    confirm(this.dialog, {
      title: `Create a new secret for ${name}?`,
      lines: ['The program at this address rejects messages until it has the new secret.'],
      action: 'Create secret',
    }).subscribe((yes) => {
      if (yes) this.store.dispatch(WebhookActions.secretAskedFor({ id }));
    });
  }

  protected remove({ id, name }: Webhook): void {
    confirm(this.dialog, {
      title: `Remove ${name}?`,
      lines: ['Messages that are still waiting are not sent.', 'This cannot be undone.'],
      action: 'Remove webhook',
    }).subscribe((yes) => {
      if (yes) this.store.dispatch(WebhookActions.webhookRemovalAskedFor({ id }));
    });
  }

  protected callInWords({ event, createdAt }: WebhookCall): string {
    return `${EVENT_WORDS[event]}, ${momentInWords(createdAt)}`;
  }

  protected answerInWords({ state, answer, nextAttemptAt }: WebhookCall): string {
    if (answer === null) return 'Waiting to be sent';
    if (state !== 'waiting' || nextAttemptAt === null) return answer;
    return `${answer}; next attempt ${momentInWords(nextAttemptAt)}`;
  }
}
