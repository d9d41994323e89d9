import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { FindingActions } from '../../../state/findings/findings.actions';
import { findingsFeature } from '../../../state/findings/findings.reducer';
import { ProjectLinks } from '../../../state/project/project-links';

/** The finding that led to the sheet, with the way to the next one and back to the package. */
@Component({
  selector: 'fx-finding-steps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, RouterLink],
  template: `
    @if (finding(); as one) {
      <section aria-label="Finding">
        <p>
          <b>Finding {{ state().at + 1 }} of {{ state().findings.length }}</b> {{ one.sentence }}
        </p>
        @if (next(); as after) {
          <a
            matButton
            [routerLink]="to('sheets', after.about)"
            [queryParams]="after.field ? { field: after.field } : {}"
            (click)="goOn()"
            >Next finding: {{ after.number }}</a
          >
        }
        <a matButton [routerLink]="to('packages', state().packageId)">Back to the package</a>
      </section>
    }
  `,
  styles: `
    section {
      display: flex;
      flex-wrap: wrap;
      gap: var(--fx-gap-1) var(--fx-gap-2);
      align-items: center;
      padding: var(--fx-gap-1) var(--fx-gap-4);
      border-bottom: 1px solid var(--fx-line);
      background: var(--fx-signal-wash);
    }
    p {
      flex: 1;
      min-width: 240px;
    }
    b {
      margin-right: var(--fx-gap-1);
    }
  `,
})
export class FindingSteps {
  /** Id of the sheet that is shown. */
  readonly sheet = input.required<string>();
  protected readonly to = inject(ProjectLinks).to;
  private readonly store = inject(Store);
  protected readonly state = this.store.selectSignal(findingsFeature.selectFindingsState);
  /** The one that is open, while its sheet is shown. */
  protected readonly finding = computed(() => {
    const { findings, at } = this.state();
    return findings[at]?.about === this.sheet() ? findings[at] : undefined;
  });
  protected readonly next = computed(() => this.state().findings[this.state().at + 1]);

  constructor() {
    inject(DestroyRef).onDestroy(() => this.store.dispatch(FindingActions.findingsClosed()));
  }

  protected goOn(): void {
    this.store.dispatch(FindingActions.nextFindingOpened());
  }
}
