import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { templatesOf, type Orientation, type Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { editsFeature } from '../../state/edits/edits.reducer';
import { projectFeature } from '../../state/project/project.reducer';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { FRAMES, SCALES, optionsByName } from '../../ui/choices';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { DateField } from '../../forms/date-field';
import { OwnFields } from '../../forms/own-fields';
import { TextField } from '../../forms/text-field';
import { scaleSchema } from '@folvex/contract';
import { problemWith } from '../../forms/yup-validator';
import { countOf, papersInWords, today } from '../../ui/words';
import { CopySettings } from './copy-settings';
import { SeveralLayers } from './several-layers';

const UNCHANGED = 'unchanged';

/** Settings for several sheets at once; those left unchanged stay as they are on each. */
@Component({
  selector: 'fx-several-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, CopySettings, DateField, MatButton, OwnFields, SeveralLayers, TextField],
  template: `
    <fx-choice caption="Paper" [value]="paper()" [options]="paperOptions()" (chosen)="paper.set($event)" />
    <fx-choice caption="Frame" [value]="frame()" [options]="frameOptions" (chosen)="frame.set($event)" />
    <fx-choice
      caption="Title block"
      [value]="template()"
      [options]="templateOptions()"
      (chosen)="template.set($event)"
    />
    <fx-text
      caption="Scale of all views"
      placeholder="unchanged"
      [value]="scale()"
      [schema]="scaleSchema"
      [offers]="scales"
      (typed)="scale.set($event)"
    />
    <fx-choice caption="Group" [value]="group()" [options]="groupOptions()" (chosen)="group.set($event)" />
    <div class="pair">
      <fx-text caption="Revision" placeholder="unchanged" [value]="index()" (typed)="index.set($event)" />
      <fx-date caption="Date" [value]="date()" (entered)="date.set($event)" />
    </div>
    @if (index().trim() !== '') {
      <fx-text caption="What changed" [value]="what()" (typed)="what.set($event)" />
    }
    <fx-own-fields blank="unchanged" [values]="fields()" (changed)="fields.set($event)" />
    <fx-several-layers [sheets]="sheets()" (changed)="layers.set($event)" />
    <button mat-stroked-button type="button" [disabled]="!ready() || busy()" (click)="apply()">
      {{ busy() ? 'Setting' : 'Set on' }} {{ counted(sheets().length, 'sheet') }}{{ busy() ? ' …' : '' }}
    </button>
    <fx-copy-settings [sheets]="sheets()" />
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
  `,
})
export class SeveralPanel {
  readonly sheets = input.required<readonly Sheet[]>();

  private readonly store = inject(Store);
  private readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly templateOptions = computed((): readonly Choosable<string | null>[] => [
    { value: '', words: UNCHANGED },
    ...optionsByName(templatesOf(this.facts() ?? {})),
    { value: null, words: 'none' },
  ]);
  protected readonly groupOptions = computed((): readonly Choosable<string | null>[] => [
    { value: null, words: UNCHANGED },
    ...optionsByName(this.groups()),
  ]);
  protected readonly scales = SCALES;
  protected readonly scaleSchema = scaleSchema('fit', '');
  protected readonly frameOptions: readonly Choosable<Sheet['frame'] | ''>[] = [
    { value: '', words: UNCHANGED },
    ...FRAMES,
  ];
  /** While edits are on their way, the next waits. */
  private readonly editing = this.store.selectSignal(editsFeature.selectEditing);
  protected readonly busy = computed(() => this.editing() > 0);
  protected readonly paperOptions = computed(() => [
    { value: '', words: UNCHANGED },
    ...(['landscape', 'portrait'] as const).flatMap((orientation) =>
      papersInWords(orientation, this.facts()?.papers).map(({ name, words }) => ({
        value: `${name}|${orientation}`,
        words: `${words}, ${orientation}`,
      })),
    ),
  ]);
  protected readonly paper = signal('');
  protected readonly frame = signal<Sheet['frame'] | ''>('');
  /** Empty: unchanged; null: none. */
  protected readonly template = signal<string | null>('');
  protected readonly scale = signal('');
  protected readonly group = signal<string | null>(null);
  protected readonly index = signal('');
  protected readonly date = signal(today());
  protected readonly what = signal('');
  protected readonly fields = signal<Record<string, string>>({});
  protected readonly layers = signal<ManyChange['set']['layers']>(undefined);
  private readonly scaleRight = computed(() => problemWith(this.scaleSchema, this.scale()) === undefined);
  private readonly set = computed((): ManyChange['set'] => {
    const [name, orientation] = this.paper().split('|');
    const group = this.group();
    const index = this.index().trim();
    return {
      ...(name && { paper: { name, orientation: orientation as Orientation } }),
      ...(this.frame() && { frame: this.frame() as Sheet['frame'] }),
      ...(this.template() !== '' && { template: this.template() }),
      ...(this.scale().trim() && { scale: this.scale().trim() }),
      ...(group !== null && { group }),
      ...(Object.keys(this.fields()).length > 0 && { fields: this.fields() }),
      ...(this.layers() && { layers: this.layers()! }),
      ...(index && this.date() && { revision: { index, date: this.date(), text: this.what().trim() } }),
    };
  });
  protected readonly ready = computed(() => {
    const dated = this.index().trim() === '' || this.date() !== '';
    return this.scaleRight() && dated && Object.keys(this.set()).length > 0;
  });
  protected readonly counted = countOf;

  protected apply(): void {
    const ids = this.sheets().map(({ id }) => id);
    this.store.dispatch(SheetActions.severalEdited({ change: { ids, set: this.set() } }));
  }
}
