import { CdkCopyToClipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import {
  MAT_DIALOG_DATA,
  MatDialog,
  MatDialogActions,
  MatDialogClose,
  MatDialogContent,
  MatDialogTitle,
} from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import type { DeliveryInfo, RunInfo } from '@folvex/contract';
import { Lookups } from '../state/lookups/lookups';
import { RunActions } from '../state/runs/runs.actions';
import { pageInWords } from './delivery-words';

/** A delivery whose recipient downloads from a page. */
interface PageOfDelivery {
  run: RunInfo;
  delivery: DeliveryInfo;
}

@Component({
  selector: 'fx-recipient-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkCopyToClipboard,
    MatButton,
    MatDialogActions,
    MatDialogClose,
    MatDialogContent,
    MatDialogTitle,
    MatIcon,
    MatIconButton,
  ],
  template: `
    <h2 mat-dialog-title>Page for {{ delivery.location }}</h2>
    <mat-dialog-content>
      <p class="quiet">{{ words() }}</p>
      @if (key.problem()) {
        <p role="alert">{{ key.problem() }}</p>
      }
      <dl>
        @for (part of parts(); track part.name) {
          <dt>{{ part.name }}</dt>
          <dd>
            <code>{{ part.text }}</code>
            <button
              matIconButton
              type="button"
              [cdkCopyToClipboard]="part.text"
              (cdkCopyToClipboardCopied)="copied.set($event ? part.name : '')"
              [attr.aria-label]="'Copy ' + part.name.toLowerCase()"
            >
              <mat-icon [svgIcon]="copied() === part.name ? 'check' : 'content_copy'" aria-hidden="true" />
            </button>
          </dd>
        }
      </dl>
      <p role="status">{{ copied() && copied() + ' copied.' }}</p>
    </mat-dialog-content>
    <mat-dialog-actions>
      <button matButton type="button" mat-dialog-close (click)="closePage()">Close the page now</button>
      <button matButton="filled" type="button" mat-dialog-close cdkFocusInitial>Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    p,
    dl,
    dd {
      margin: 0;
    }
    .quiet {
      color: var(--fx-quiet);
    }
    dl {
      margin-top: var(--fx-gap-3);
    }
    dd + dt {
      margin-top: var(--fx-gap-2);
    }
    dt {
      color: var(--fx-quiet);
      font-size: 12px;
    }
    dd {
      display: flex;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    code {
      flex: 1;
      overflow-wrap: anywhere;
      user-select: all;
    }
  `,
})
class RecipientPageDialog {
  private readonly store = inject(Store);
  private readonly data = inject<PageOfDelivery>(MAT_DIALOG_DATA);
  protected readonly delivery = this.data.delivery;
  protected readonly words = computed(() => pageInWords(this.delivery.page!, Date.now()));
  protected readonly key = inject(Lookups).of('recipientPageKey', () => ({
    run: this.data.run.id,
    delivery: this.delivery.id,
  }));
  protected readonly parts = computed(() => {
    const { link, password = null } = this.key.answer() ?? {};
    return [
      ...(link === undefined ? [] : [{ name: 'Link', text: link }]),
      ...(password === null ? [] : [{ name: 'Password', text: password }]),
    ];
  });
  /** Name of what was copied last. */
  protected readonly copied = signal('');

  protected closePage(): void {
    this.store.dispatch(RunActions.pageCloseAskedFor({ runId: this.data.run.id, deliveryId: this.delivery.id }));
  }
}

/** Shows what lets a recipient into their page. To be called where things are injected; returns what shows it. */
export function pageShower(): (page: PageOfDelivery) => void {
  const dialog = inject(MatDialog);
  return (data) => void dialog.open<unknown, PageOfDelivery>(RecipientPageDialog, { data, width: '560px' });
}
