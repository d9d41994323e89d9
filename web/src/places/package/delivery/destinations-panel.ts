import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import type { PackageChange } from '@folvex/contract';
import { MAX_DESTINATIONS, newDestination, type Destination, type PlotDraft } from '@folvex/core';
import { DestinationForm } from '../../../deliveries/destination-form';
import { PlotPicture } from '../../../deliveries/plot-picture';

/** Where the files of a package are delivered to: nowhere, to one place, or to several. */
@Component({
  selector: 'fx-destinations-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DestinationForm, MatButton, MatIcon, PlotPicture],
  template: `
    @for (destination of shown(); track $index; let at = $index) {
      <section [attr.aria-label]="several() ? 'Destination ' + (at + 1) : 'Destination'">
        <fx-destination-form
          [destination]="destination"
          [where]="where()[at] ?? ''"
          [none]="several() ? '' : 'Download'"
          (changed)="change(at, $event)"
        />
        @if (plots()[at]; as draft) {
          @if (draft.pieces.length > 0) {
            <fx-plot-picture [draft]="draft" />
          }
        }
        @if (several()) {
          <button matButton type="button" class="fx-act" (click)="change(at, null)">
            Remove destination {{ at + 1 }}
          </button>
        }
      </section>
    }
    @if (destinations().length > 0 && destinations().length < most) {
      <button matButton type="button" class="fx-act" (click)="add()">
        <mat-icon svgIcon="add" aria-hidden="true" />
        Another destination
      </button>
    }
  `,
  styles: `
    :host,
    section {
      display: grid;
      gap: var(--fx-gap-2);
    }
    button {
      justify-self: start;
    }
    section + section {
      padding-top: var(--fx-gap-2);
      border-top: 1px solid var(--fx-line);
    }
  `,
})
export class DestinationsPanel {
  readonly destinations = input.required<readonly Destination[]>();
  /** Where each of them is, with the fields of today, or why it cannot be looked at; none until it is known. */
  readonly where = input.required<readonly string[]>();
  /** What comes out of those that are plotters. */
  readonly plots = input.required<readonly (PlotDraft | null)[]>();
  readonly changed = output<PackageChange>();
  protected readonly most = MAX_DESTINATIONS;
  protected readonly several = computed(() => this.destinations().length > 1);
  /** Where there is none, a form to choose one. */
  protected readonly shown = computed((): readonly (Destination | undefined)[] =>
    this.destinations().length > 0 ? this.destinations() : [undefined],
  );

  protected change(at: number, destination: Destination | null): void {
    const all = [...this.destinations()];
    all.splice(at, 1, ...(destination ? [destination] : []));
    this.changed.emit({ destinations: all.length > 0 ? all : null });
  }

  protected add(): void {
    this.changed.emit({ destinations: [...this.destinations(), newDestination('server')] });
  }
}
