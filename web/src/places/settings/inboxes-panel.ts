import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { MAX_VERSION_MARK, serverUse } from '@folvex/core';
import { string } from 'yup';
import { Rows, type Row } from '../../forms/rows';
import { TextField } from '../../forms/text-field';
import { ArrivalActions } from '../../state/arrivals/arrivals.actions';
import { arrivalsFeature } from '../../state/arrivals/arrivals.reducer';
import { SettingsEditor } from '../../state/project/settings-editor';
import { selectIsLead } from '../../state/session/session.reducer';
import { TransferActions } from '../../state/transfer/transfer.actions';
import { transferFeature } from '../../state/transfer/transfer.reducer';
import { momentInWords } from '../../ui/words';
import { inboxColumns, inboxOf, inboxRow, withIds } from './lists';

/** The folders that are watched for files that others send, and how the project recognises their versions. */
@Component({
  selector: 'fx-inboxes-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Rows, TextField],
  template: `
    <h2>Inboxes</h2>
    <p class="quiet">
      Files that others put into these folders appear under Gather. Folvex checks the folders every few seconds, waits
      until a file is complete, and leaves it where it is.
    </p>
    @if (isLead()) {
      <fx-rows
        name="Inboxes"
        adding="Add an inbox"
        empty="No inboxes yet."
        [columns]="columns()"
        [rows]="rows()"
        [blank]="{
          name: 'Inbox ' + (rows().length + 1),
          server: '',
          folder: 'inbox-' + (rows().length + 1),
          takes: '',
        }"
        (changed)="set($event)"
      />
    }
    <ul>
      @for (inbox of found(); track inbox.id) {
        <li [class.wrong]="inbox.problem">
          <b>{{ inbox.name }}</b>: {{ inbox.words }}
        </li>
      } @empty {
        @if (!isLead()) {
          <li class="quiet">No inboxes yet. A lead of the project can add them.</li>
        }
      }
    </ul>
    <fx-text
      caption="Version mark in file names"
      hint="With _P, A-101_P02.dxf is a newer version of A-101_P01.dxf. Leave it blank if all versions have the same name."
      [value]="versionMark()"
      [schema]="markSchema"
      (entered)="mark($event)"
    />
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-3);
    }
    fx-text {
      max-width: 460px;
    }
    .wrong {
      color: var(--fx-signal);
    }
  `,
})
export class InboxesPanel {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly states = this.store.selectSignal(arrivalsFeature.selectInboxes);
  private readonly servers = this.store.selectSignal(transferFeature.selectServers);
  private readonly inboxes = computed(() => this.editor.facts()?.inboxes ?? []);
  protected readonly isLead = this.store.selectSignal(selectIsLead);
  protected readonly markSchema = string().max(MAX_VERSION_MARK);
  protected readonly versionMark = computed(() => this.editor.facts()?.versionMark ?? '');
  protected readonly rows = computed(() => this.inboxes().map(inboxRow));
  protected readonly columns = computed(() =>
    inboxColumns((this.servers() ?? []).filter(({ address }) => serverUse(address) === 'server')),
  );
  /** Where each is, or why it cannot be read. */
  protected readonly found = computed(() =>
    this.inboxes().map(({ id, name }) => {
      const state = this.states().find((one) => one.id === id);
      if (!state) return { id, name, words: 'not checked yet', problem: false };
      const checked = `last checked ${momentInWords(state.polledAt)}`;
      return {
        id,
        name,
        words: state.problem?.sentence ?? `${state.where}, ${checked}`,
        problem: state.problem !== null,
      };
    }),
  );

  constructor() {
    this.store.dispatch(TransferActions.serversAskedFor());
    this.store.dispatch(ArrivalActions.arrivalsAskedFor());
  }

  protected set(rows: Row[]): void {
    this.editor.changeFacts({ inboxes: withIds(rows).map(inboxOf) });
  }

  protected mark(mark: string): void {
    this.editor.changeFacts({ versionMark: mark.trim() });
  }
}
