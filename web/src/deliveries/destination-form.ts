import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { Store } from '@ngrx/store';
import {
  DESTINATION_KINDS,
  hasFields,
  isMailAddress,
  mediaIn,
  newDestination,
  paperNames,
  recipientNames,
  recipientsIn,
  serverUse,
  USUAL_ROLLS_MM,
  type ChoiceSetting,
  type Destination,
  type DestinationKind,
  type NumberSetting,
  type Setting,
  type TextSetting,
} from '@folvex/core';
import { string, type Schema } from 'yup';
import { ChoiceField, type Choosable } from '../forms/choice-field';
import { NameRule } from '../forms/name-rule';
import { NumberField } from '../forms/number-field';
import { TextField } from '../forms/text-field';
import { projectFeature, selectPeople } from '../state/project/project.reducer';
import { selectIsOffice } from '../state/session/session.reducer';
import { TransferActions } from '../state/transfer/transfer.actions';
import { transferFeature } from '../state/transfer/transfer.reducer';

type Shown = TextSetting | NumberSetting | ChoiceSetting;

/** Characters of a choice that has room next to another one. */
const MAX_SHORT_WORDS = 16;

/** Settings of emails that are about pages of their recipients. */
const OF_PAGES: ReadonlySet<string> = new Set(['files', 'pageDays', 'pagePassword']);

/** A destination to choose: its kind, what that kind needs to know, and what is done about files that are there. */
@Component({
  selector: 'fx-destination-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { class: 'fx-pairs' },
  imports: [ChoiceField, NameRule, NumberField, TextField],
  template: `
    <fx-choice caption="Destination" [value]="kind()" [options]="kinds()" (chosen)="choose($event)" />
    @if (destination(); as destination) {
      @if (destination.kind !== 'folder') {
        <fx-choice
          [caption]="serverCaptions[destination.kind]"
          [value]="destination.server"
          [options]="serverOptions()"
          [placeholder]="serverOptions().length === 0 ? 'Set one up in Settings, Servers' : 'Choose one'"
          (chosen)="change({ server: $event })"
        />
      }
      @for (setting of settings(); track setting.key) {
        @if (setting.kind === 'number') {
          <fx-number
            class="half"
            [caption]="setting.caption"
            [value]="numberOf(setting)"
            [min]="setting.min"
            [max]="setting.max"
            [absent]="setting.absent"
            (entered)="set(setting, $event)"
          />
        } @else if (setting.kind === 'choice') {
          <fx-choice
            [class.half]="isShort(setting)"
            [caption]="setting.caption"
            [value]="valueOf(setting.key)"
            [options]="setting.options"
            (chosen)="set(setting, $event)"
          />
        } @else if (hasFields(setting)) {
          <fx-name-rule
            [caption]="setting.caption"
            [rule]="textOf(setting)"
            [multiline]="setting.format === 'message'"
            (edited)="set(setting, $event)"
          />
        } @else {
          <fx-text
            [caption]="setting.caption"
            [value]="textOf(setting)"
            [schema]="schemas[setting.key]"
            [placeholder]="setting.key === 'media' ? 'as the plotter says' : ''"
            [listed]="offers()[setting.key] !== undefined"
            [offers]="offers()[setting.key] ?? []"
            (entered)="set(setting, $event)"
          />
        }
      }
      <p class="quiet">{{ where() }}</p>
    }
  `,
  styles: `
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
  /** The destination with what was changed since the last rendering. */
  private readonly latest = linkedSignal(() => this.destination());
  /** Null for none. */
  readonly changed = output<Destination | null>();
  protected readonly kinds = computed((): readonly Choosable<DestinationKind | ''>[] => [
    ...(this.none() ? [{ value: '' as const, words: this.none() }] : []),
    ...(Object.keys(DESTINATION_KINDS) as DestinationKind[]).map((kind) => ({
      value: kind,
      words: DESTINATION_KINDS[kind].name,
    })),
  ]);
  protected readonly kind = computed((): DestinationKind | '' => this.destination()?.kind ?? '');

  /** What the kind needs to know, apart from the server, which is chosen from a list. */
  protected readonly settings = computed((): readonly Shown[] => {
    const kind = this.destination()?.kind;
    const settings: readonly Setting[] = kind ? DESTINATION_KINDS[kind].settings : [];
    return settings.filter(
      (setting): setting is Shown =>
        ['text', 'number', 'choice'].includes(setting.kind) &&
        setting.key !== 'server' &&
        // Where nobody else can open a page, there is nothing to choose.
        (this.isOffice() || !OF_PAGES.has(setting.key)),
    );
  });
  private readonly isOffice = this.store.selectSignal(selectIsOffice);
  protected readonly serverCaptions = { server: 'Server', mail: 'Mail server', plotter: 'Plotter' } as const;
  protected readonly hasFields = hasFields;
  private readonly people = this.store.selectSignal(selectPeople);
  /** Entries that are often wanted in lists, by the keys of these. */
  protected readonly offers = computed((): Readonly<Record<string, readonly string[]>> => ({
    to: recipientNames(this.people()),
    media: [...USUAL_ROLLS_MM.map(String), ...paperNames(this.project()?.papers)],
  }));
  private readonly project = this.store.selectSignal(projectFeature.selectFacts);
  /** What the addresses of an email and the paper of a plotter must be, by their keys. */
  protected readonly schemas: Readonly<Record<string, Schema>> = {
    from: string().test(
      'address',
      ({ value }) => `${value} is not an email address.`,
      (text = '') => text === '' || isMailAddress(text.trim()),
    ),
    to: string().test(
      'recipients',
      ({ value }) =>
        `${this.unknownIn(value as string)[0]} is neither an email address nor a person or firm of this project.`,
      (text = '') => this.unknownIn(text).length === 0,
    ),
    media: string().test(
      'media',
      ({ value }) =>
        `${this.unknownMedia(value as string)[0]} is neither the width of a roll in mm nor the name of a paper.`,
      (text = '') => this.unknownMedia(text).length === 0,
    ),
  };

  protected readonly servers = computed(() => this.found() ?? []);
  /** Those that the kind of the destination can use. */
  protected readonly serverOptions = computed(() =>
    this.servers()
      .filter(({ address }) => serverUse(address) === this.kind())
      .map(({ id, name }) => ({ value: id, words: name })),
  );

  constructor() {
    effect(() => {
      if (this.destination() && this.kind() !== 'folder' && this.found() === null)
        this.store.dispatch(TransferActions.serversAskedFor());
    });
  }

  protected choose(kind: DestinationKind | ''): void {
    this.changed.emit(kind ? newDestination(kind) : null);
  }

  private unknownMedia(text: string): string[] {
    return mediaIn(text, this.project()?.papers).unknown;
  }

  private unknownIn(text: string): string[] {
    return recipientsIn(text, this.people()).unknown;
  }

  /** Whether all options have room in half of the width. */
  protected isShort({ options }: ChoiceSetting): boolean {
    return options.every(({ words }) => words.length <= MAX_SHORT_WORDS);
  }

  protected textOf({ key }: TextSetting): string {
    return String(this.valueOf(key) ?? '');
  }

  protected numberOf({ key }: NumberSetting): number | undefined {
    return this.valueOf(key) as number | undefined;
  }

  protected set({ key }: Setting, value: unknown): void {
    this.change({ [key]: value });
  }

  protected valueOf(key: string): unknown {
    return (this.destination() as Record<string, unknown> | undefined)?.[key];
  }

  protected change(changes: Partial<Destination>): void {
    const all = Object.entries({ ...this.latest()!, ...changes }).filter(([, value]) => value !== undefined);
    this.latest.set(Object.fromEntries(all) as unknown as Destination);
    this.changed.emit(this.latest()!);
  }
}
