import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  CONFLICT_OPTIONS,
  DESTINATION_KINDS,
  newDestination,
  type Destination,
  type DestinationKind,
  type TextSetting,
} from '@folvex/core';
import { ChoiceField, type Choosable } from '../forms/choice-field';
import { NameRule } from '../forms/name-rule';
import { TransferActions } from '../state/transfer/transfer.actions';
import { transferFeature } from '../state/transfer/transfer.reducer';

/** A destination to choose: its kind, what that kind needs to know, and what is done about files that are there. */
@Component({
  selector: 'fx-destination-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, NameRule],
  template: `
    <fx-choice caption="Destination" [value]="kind()" [options]="kinds()" (chosen)="choose($event)" />
    @if (destination(); as destination) {
      @if (destination.kind === 'server') {
        <fx-choice
          caption="Server"
          [value]="destination.server"
          [options]="serverOptions()"
          [placeholder]="servers().length === 0 ? 'Set one up in Settings first' : 'Choose one'"
          (chosen)="change({ server: $event })"
        />
      }
      @for (setting of settings(); track setting.key) {
        <fx-name-rule [caption]="setting.caption" [rule]="valueOf(setting)" (edited)="set(setting, $event)" />
      }
      <p class="quiet">{{ where() }}</p>
      <fx-choice
        caption="If a file of that name exists"
        [value]="destination.onConflict"
        [options]="policies"
        (chosen)="change({ onConflict: $event })"
      />
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    p {
      margin: 0;
      color: var(--fx-quiet);
      overflow-wrap: anywhere;
    }
  `,
})
export class DestinationForm {
  private readonly store = inject(Store);
  private readonly found = this.store.selectSignal(transferFeature.selectServers);
  readonly destination = input.required<Destination | undefined>();
  /** Where it is, with the fields of today; empty until it is known. */
  readonly where = input.required<string>();
  /** Words for no destination; empty where there must be one. */
  readonly none = input('');
  /** Null for none. */
  readonly changed = output<Destination | null>();
  protected readonly policies = CONFLICT_OPTIONS;
  protected readonly kinds = computed((): readonly Choosable<DestinationKind | ''>[] => [
    ...(this.none() ? [{ value: '' as const, words: this.none() }] : []),
    ...(Object.keys(DESTINATION_KINDS) as DestinationKind[]).map((kind) => ({
      value: kind,
      words: DESTINATION_KINDS[kind].name,
    })),
  ]);
  protected readonly kind = computed((): DestinationKind | '' => this.destination()?.kind ?? '');

  protected readonly settings = computed((): readonly TextSetting[] => {
    const kind = this.destination()?.kind;
    const settings: readonly TextSetting[] = kind ? DESTINATION_KINDS[kind].settings : [];
    return settings.filter(({ format }) => format === 'rule');
  });

  protected readonly servers = computed(() => this.found() ?? []);
  protected readonly serverOptions = computed(() => this.servers().map(({ id, name }) => ({ value: id, words: name })));

  constructor() {
    effect(() => {
      if (this.kind() === 'server' && this.found() === null) this.store.dispatch(TransferActions.serversAskedFor());
    });
  }

  protected choose(kind: DestinationKind | ''): void {
    this.changed.emit(kind ? newDestination(kind) : null);
  }

  protected valueOf({ key }: TextSetting): string {
    return String((this.destination() as Record<string, unknown> | undefined)?.[key] ?? '');
  }

  protected set({ key }: TextSetting, text: string): void {
    this.change({ [key]: text });
  }

  protected change(changes: Partial<Destination>): void {
    this.changed.emit({ ...this.destination()!, ...changes } as Destination);
  }
}
