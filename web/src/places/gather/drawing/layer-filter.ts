import { ChangeDetectionStrategy, Component, computed, input, model, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { LayerCount } from '../../../engine/drawing-protocol';
import { MatCheckbox } from '@angular/material/checkbox';
import { TextField } from '../../../forms/text-field';

/** Layers to be shown or not, found by a part of their name, or seen alone. */
@Component({
  selector: 'fx-layer-filter',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox, TextField],
  template: `
    <div class="head">
      <h2>Layers</h2>
      @if (hidden().length > 0) {
        <button matButton type="button" class="fx-act" (click)="hidden.set([])">Show all</button>
      }
    </div>
    <fx-text bare type="search" caption="Search layers" placeholder="Part of a name" (typed)="wanted.set($event)" />
    <ul>
      @for (layer of found(); track layer.index) {
        <li>
          <mat-checkbox [checked]="!layer.hidden" (change)="toggle(layer.index)">{{ layer.name }}</mat-checkbox>
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
      align-items: center;
      justify-content: space-between;
      gap: var(--fx-gap-2);
    }
    mat-checkbox {
      flex: 1;
      min-width: 0;
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
