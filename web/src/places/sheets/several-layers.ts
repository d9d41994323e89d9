import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Sheet } from '@folvex/core';
import type { ManyChange } from '@folvex/contract';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { selectDrawingEntities } from '../../state/drawings/drawings.selectors';
import { optionsByName } from '../../ui/choices';

/** Layers shown or not in every view of a drawing on several sheets; where the sheets differ, it says mixed. */
@Component({
  selector: 'fx-several-layers',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField],
  template: `
    <fx-choice
      caption="Layers of the drawing"
      [value]="chosen()"
      [options]="drawingOptions()"
      (chosen)="chosen.set($event)"
    />
    @if (layers().length > 0) {
      <ul aria-label="Layers">
        @for (layer of layers(); track layer.name) {
          <li>
            <span class="name">{{ layer.name }}</span>
            <fx-choice
              bare
              [caption]="'Layer ' + layer.name"
              [value]="wanted()[layer.name]"
              [options]="layer.options"
              (chosen)="set(layer.name, $event)"
            />
          </li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: var(--fx-gap-2);
    }
    ul {
      max-height: 180px;
      overflow: auto;
    }
    li {
      display: grid;
      grid-template-columns: 1fr 100px;
      align-items: center;
      gap: var(--fx-gap-2);
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class SeveralLayers {
  readonly sheets = input.required<readonly Sheet[]>();
  readonly changed = output<ManyChange['set']['layers']>();

  private readonly all = inject(Store).selectSignal(selectDrawingEntities);
  private readonly drawings = computed(() => {
    const ids = new Set(this.sheets().flatMap(({ views }) => views.map(({ drawing }) => drawing)));
    return [...ids].flatMap((id) => this.all()[id] ?? []);
  });
  protected readonly drawingOptions = computed(() => [
    { value: '', words: 'unchanged' },
    ...optionsByName(this.drawings()),
  ]);
  protected readonly chosen = linkedSignal({ source: this.sheets, computation: () => '' });
  protected readonly wanted = linkedSignal({
    source: this.chosen,
    computation: (): Readonly<Record<string, boolean>> => ({}),
  });
  protected readonly layers = computed(() => {
    const views = this.sheets().flatMap((sheet) => sheet.views.filter(({ drawing }) => drawing === this.chosen()));
    return (this.all()[this.chosen()]?.layers ?? [])
      .filter(({ visible }) => visible)
      .map(({ name }) => {
        const off = views.filter(({ layersOff }) => layersOff.some((one) => one.toLowerCase() === name.toLowerCase()));
        const now = off.length === 0 ? 'is on' : off.length === views.length ? 'is off' : 'mixed';
        const options: readonly Choosable<boolean | undefined>[] = [
          { value: undefined, words: now },
          { value: true, words: 'on' },
          { value: false, words: 'off' },
        ];
        return { name, options };
      });
  });

  protected set(layer: string, on: boolean | undefined): void {
    const wanted: Record<string, boolean> = { ...this.wanted(), [layer]: on === true };
    if (on === undefined) delete wanted[layer];
    this.wanted.set(wanted);
    const named = (state: boolean): string[] => Object.keys(wanted).filter((name) => wanted[name] === state);
    const any = Object.keys(wanted).length > 0;
    this.changed.emit(any ? { drawing: this.chosen(), on: named(true), off: named(false) } : undefined);
  }
}
