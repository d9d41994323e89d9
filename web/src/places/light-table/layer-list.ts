import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatButton } from '@angular/material/button';
import type { LayerGroup, PdfFile } from './pdf-file';

/** The layers of a PDF, drawing by drawing, to be switched on and off. */
@Component({
  selector: 'fx-layer-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatCheckbox],
  template: `
    <h2>Layers</h2>
    @for (group of groups(); track group.name) {
      <fieldset>
        <legend>
          <mat-checkbox
            [checked]="shownIn(group) === group.layers.length"
            [indeterminate]="shownIn(group) > 0 && shownIn(group) < group.layers.length"
            (change)="switchAll(group, $event.checked)"
          >
            {{ group.name }}
          </mat-checkbox>
        </legend>
        @for (layer of group.layers; track layer.id) {
          <mat-checkbox [checked]="layer.visible" (change)="switchOne([layer.id], $event.checked)">
            {{ layer.name }}
          </mat-checkbox>
        }
      </fieldset>
    } @empty {
      <p>This file has no layers.</p>
    }
    @if (hidden() > 0) {
      <button matButton type="button" class="fx-act" (click)="showAll()">Show all again</button>
    }
  `,
  styles: `
    :host {
      display: block;
      flex: none;
      width: 216px;
      padding: var(--fx-gap-3);
      border-left: 1px solid var(--fx-line);
      background: var(--fx-surface);
      overflow: auto;
    }
    fieldset {
      display: grid;
      margin: 0 0 var(--fx-gap-2);
      padding: 0 0 0 14px;
      border: 0;
    }
    legend {
      margin-left: -14px;
      padding: 0;
      font-weight: 600;
    }
    p {
      color: var(--fx-quiet);
    }
  `,
})
export class LayerList {
  readonly file = input.required<PdfFile>();
  readonly changed = output();
  protected readonly groups = linkedSignal(() => this.file().layerGroups());
  protected readonly hidden = computed(() =>
    this.groups().reduce((sum, g) => sum + g.layers.length - this.shownIn(g), 0),
  );

  protected shownIn(group: LayerGroup): number {
    return group.layers.filter((layer) => layer.visible).length;
  }

  protected switchAll(group: LayerGroup, visible: boolean): void {
    this.switchOne(
      group.layers.map((layer) => layer.id),
      visible,
    );
  }

  protected showAll(): void {
    for (const group of this.groups()) this.switchAll(group, true);
  }

  protected switchOne(ids: readonly string[], visible: boolean): void {
    for (const id of ids) this.file().setVisible(id, visible);
    this.groups.set(this.file().layerGroups());
    this.changed.emit();
  }
}
