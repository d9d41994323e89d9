import { ChangeDetectionStrategy, Component, computed, input, model, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MatButton } from '@angular/material/button';
import type { LayerCount } from '../../../engine/drawing-protocol';

/** Layers to be shown or not, found by a part of their name, or seen alone. */
@Component({
  selector: 'fx-layer-filter',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, MatButton],
  template: `
    <div class="head">
      <h2>Layers</h2>
      @if (hidden().length > 0) {
        <button matButton type="button" class="fx-act" (click)="hidden.set([])">Show all</button>
      }
    </div>
    <input
      class="fx-field"
      type="search"
      placeholder="Part of a name"
      aria-label="Search layers"
      [(ngModel)]="wanted"
    />
    <ul>
      @for (layer of found(); track layer.index) {
        <li>
          <label>
            <input type="checkbox" [checked]="!layer.hidden" (change)="toggle(layer.index)" />
            {{ layer.name }}
          </label>
          <span class="quiet">{{ layer.marks }}</span>
          <button
            matButton
            type="button"
            class="fx-act"
            [attr.aria-label]="'Only ' + layer.name"
            (click)="only(layer.index)"
          >
            only
          </button>
        </li>
      } @empty {
        <li class="quiet">No layer of that name.</li>
      }
    </ul>
  `,
  styles: `
    .head,
    li {
      display: flex;
      align-items: baseline;
      justify-content: space-between;
      gap: var(--fx-gap-2);
    }
    label {
      display: block;
      flex: 1;
      min-width: 0;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    label input {
      display: inline;
      width: auto;
      margin-right: var(--fx-gap-1);
      accent-color: var(--fx-signal);
    }
    ul {
      margin-top: var(--fx-gap-2);
    }
    .quiet {
      color: var(--fx-quiet);
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class LayerFilter {
  readonly layers = input.required<readonly LayerCount[]>();
  /** Numbers of the layers not shown. */
  readonly hidden = model.required<number[]>();

  protected readonly wanted = signal('');
  protected readonly found = computed(() => {
    const part = this.wanted().trim().toLowerCase();
    const hidden = new Set(this.hidden());
    return this.layers()
      .map((layer, index) => ({ ...layer, index, hidden: hidden.has(index) }))
      .filter(({ name }) => name.toLowerCase().includes(part))
      .sort((a, b) => a.name.localeCompare(b.name));
  });

  protected toggle(index: number): void {
    this.hidden.update((hidden) =>
      hidden.includes(index) ? hidden.filter((other) => other !== index) : [...hidden, index],
    );
  }

  /** Shows one layer alone; asked again, all of them. */
  protected only(index: number): void {
    const others = this.layers().flatMap((_, other) => (other === index ? [] : [other]));
    const alone = this.hidden().length === others.length && !this.hidden().includes(index);
    this.hidden.set(alone ? [] : others);
  }
}
