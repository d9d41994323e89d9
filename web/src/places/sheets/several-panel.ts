import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { parseScale, templatesOf, type Orientation, type Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { SheetActions } from '../../state/project.actions';
import { projectFeature } from '../../state/project.reducer';
import { FRAMES, SCALES } from '../../ui/choices';
import { OwnFields } from '../../forms/own-fields';
import { countOf, papersInWords } from '../../ui/words';
import { CopySettings } from './copy-settings';
import { SeveralLayers } from './several-layers';

/** Settings for several sheets at once; what is left alone stays as it is on each. */
@Component({
  selector: 'fx-several-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CopySettings, FormsModule, MatButton, OwnFields, SeveralLayers],
  template: `
    <label>
      <span class="fx-caption">Paper</span>
      <select class="fx-field" [(ngModel)]="paper">
        <option value="">as it is on each</option>
        @for (option of papers(); track option.key) {
          <option [value]="option.key">{{ option.words }}</option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Frame</span>
      <select class="fx-field" [(ngModel)]="frame">
        <option value="">as it is on each</option>
        @for (option of frames; track option[0]) {
          <option [value]="option[0]">{{ option[1] }}</option>
        }
      </select>
    </label>
    <label>
      <span class="fx-caption">Title block</span>
      <select class="fx-field" [(ngModel)]="template">
        <option value="">as it is on each</option>
        @for (option of templates(); track option.id) {
          <option [value]="option.id">{{ option.name }}</option>
        }
        <option [ngValue]="null">none</option>
      </select>
    </label>
    <label>
      <span class="fx-caption">Scale of all views</span>
      <input
        class="fx-field"
        list="several-scales"
        placeholder="as it is on each"
        autocomplete="off"
        [(ngModel)]="scale"
        [attr.aria-invalid]="!scaleRight()"
      />
      <datalist id="several-scales">
        @for (offer of scales; track offer) {
          <option [value]="offer"></option>
        }
      </datalist>
    </label>
    <label>
      <span class="fx-caption">Group</span>
      <select class="fx-field" [(ngModel)]="group">
        <option [ngValue]="null">as it is on each</option>
        @for (option of groups(); track option.id) {
          <option [ngValue]="option.id">{{ option.name }}</option>
        }
      </select>
    </label>
    <div class="pair">
      <label>
        <span class="fx-caption">Revision</span>
        <input class="fx-field" placeholder="as it is" autocomplete="off" [(ngModel)]="index" />
      </label>
      <label>
        <span class="fx-caption">Date</span>
        <input class="fx-field" type="date" [(ngModel)]="date" />
      </label>
    </div>
    @if (index().trim() !== '') {
      <label>
        <span class="fx-caption">What changed</span>
        <input class="fx-field" autocomplete="off" [(ngModel)]="what" />
      </label>
    }
    <fx-own-fields blank="as it is on each" [values]="fields()" (changed)="fields.set($event)" />
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
  protected readonly groups = this.store.selectSignal(projectFeature.selectGroups);
  private readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly templates = computed(() => templatesOf(this.facts() ?? {}));
  protected readonly scales = SCALES;
  protected readonly frames = FRAMES;
  /** While edits are on their way, the next waits. */
  private readonly editing = this.store.selectSignal(projectFeature.selectEditing);
  protected readonly busy = computed(() => this.editing() > 0);
  protected readonly papers = computed(() =>
    (['landscape', 'portrait'] as const).flatMap((orientation) =>
      papersInWords(orientation, this.facts()?.papers).map(({ name, words }) => ({
        key: `${name}|${orientation}`,
        words: `${words}, ${orientation}`,
      })),
    ),
  );
  protected readonly paper = signal('');
  protected readonly frame = signal('');
  /** Empty: as it is on each; null: none. */
  protected readonly template = signal<string | null>('');
  protected readonly scale = signal('');
  protected readonly group = signal<string | null>(null);
  protected readonly index = signal('');
  protected readonly date = signal('');
  protected readonly what = signal('');
  protected readonly fields = signal<Record<string, string>>({});
  protected readonly layers = signal<ManyChange['set']['layers']>(undefined);
  protected readonly scaleRight = computed(() => {
    const typed = this.scale().trim().toLowerCase();
    return typed === '' || typed === 'fit' || parseScale(typed) !== undefined;
  });
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
