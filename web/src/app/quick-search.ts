import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  viewChild,
} from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocomplete, MatAutocompleteTrigger } from '@angular/material/autocomplete';
import { MatOption } from '@angular/material/core';
import { MatDialogRef } from '@angular/material/dialog';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { toSignal } from '@angular/core/rxjs-interop';
import { filter } from 'rxjs';
import { selectAllDrawings } from '../state/drawings/drawings.selectors';
import { EditActions } from '../state/edits/edits.actions';
import { selectHistory } from '../state/edits/edits.selectors';
import { selectAllPackages } from '../state/packages/packages.selectors';
import { ProjectLinks } from '../state/project/project-links';
import { projectFeature } from '../state/project/project.reducer';
import { RunActions } from '../state/runs/runs.actions';
import { selectAllSheets } from '../state/sheets/sheets.selectors';
import { foundCommands, type Command } from './commands';
import { PLACES, SETTINGS } from './places';

/** Opens any place, package, sheet or drawing, and starts common actions, by a few letters of the name. */
@Component({
  selector: 'fx-quick-search',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatAutocomplete, MatAutocompleteTrigger, MatFormField, MatInput, MatOption, ReactiveFormsModule],
  template: `
    <mat-form-field>
      <input
        #field
        matInput
        cdkFocusInitial
        aria-label="Quick search"
        placeholder="A place, a sheet, a package, a drawing, or an action …"
        [formControl]="control"
        #trigger="matAutocompleteTrigger"
        [matAutocomplete]="auto"
        (keydown.enter)="run(trigger.activeOption?.value)"
      />
      <mat-autocomplete #auto autoActiveFirstOption (optionSelected)="run($event.option.value)">
        @for (command of found(); track command.key) {
          <mat-option [value]="command">
            {{ command.words }} <span class="kind">{{ command.kind }}</span>
          </mat-option>
        }
      </mat-autocomplete>
    </mat-form-field>
    <p class="quiet" role="status">{{ none() }}</p>
  `,
  styles: `
    :host {
      display: block;
      padding: var(--fx-gap-4);
    }
    mat-form-field {
      width: 100%;
    }
    .kind {
      color: var(--fx-quiet);
    }
  `,
})
export class QuickSearch {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly dialog = inject<MatDialogRef<QuickSearch>>(MatDialogRef);
  private readonly to = inject(ProjectLinks).to;
  protected readonly control = new FormControl<string | Command>('', { nonNullable: true });
  /** The text typed; the field also holds a command once one is selected. */
  private readonly text = toSignal(this.control.valueChanges.pipe(filter((value) => typeof value === 'string')), {
    initialValue: '',
  });
  private readonly commands = this.all();
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');
  private ran = false;
  protected readonly found = computed(() => foundCommands(this.commands, this.text()));
  protected readonly none = computed(() => (this.found().length === 0 ? 'No match.' : ''));

  constructor() {
    // Earlier than the dialog would: people who know the shortcut type at once.
    afterNextRender(() => this.field().nativeElement.focus());
  }

  /**
   * Runs a listed command; the first match if Enter is pressed before the list has caught up with the text. While the
   * list is open Enter arrives twice: from the field and from the list.
   */
  protected run(chosen?: Command): void {
    if (this.ran) return;
    const command = this.found().find((one) => one === chosen) ?? this.found()[0];
    if (!command) return;
    this.ran = true;
    this.dialog.close();
    command.run();
  }

  private all(): Command[] {
    const project = this.store.selectSignal(projectFeature.selectId)();
    const open = (...parts: string[]): (() => void) => {
      return () => void this.router.navigate(this.to(...parts));
    };
    const projects: Command = {
      ...{ key: 'projects', kind: 'place', words: 'Projects', always: true },
      run: () => void this.router.navigate(['/']),
    };
    const reference: Command = {
      ...{ key: 'api-reference', kind: 'place', words: 'API reference' },
      run: () => void this.router.navigate(['/api-reference']),
    };
    if (!project) return [projects, reference];
    const history = this.store.selectSignal(selectHistory)();
    const packages = this.store.selectSignal(selectAllPackages)();
    const steps = (['undo', 'redo'] as const).flatMap((way): Command[] => {
      const words = history[way];
      const run = (): void => this.store.dispatch(EditActions.stepAskedFor({ way }));
      return words === null
        ? []
        : [{ key: way, kind: 'action', words: `${way === 'undo' ? 'Undo' : 'Redo'} ${words}`, always: true, run }];
    });
    return [
      ...[...PLACES, SETTINGS].map(({ path, name }): Command => ({
        ...{ key: `place ${path}`, kind: 'place', words: name, always: true },
        run: open(path),
      })),
      projects,
      reference,
      ...steps,
      ...packages.map(({ id, name }): Command => ({
        ...{ key: `publish ${id}`, kind: 'action', words: `Publish ${name}`, always: true },
        run: () => {
          open('packages', id)();
          this.store.dispatch(RunActions.publishAskedFor({ packageId: id }));
        },
      })),
      ...packages.map(({ id, name }): Command => ({
        ...{ key: `package ${id}`, kind: 'package', words: name },
        run: open('packages', id),
      })),
      ...this.store
        .selectSignal(selectAllSheets)()
        .map(({ id, number, title }): Command => ({
          ...{ key: `sheet ${id}`, kind: 'sheet', words: `${number} ${title}`.trim() },
          run: open('sheets', id),
        })),
      ...this.store
        .selectSignal(selectAllDrawings)()
        .map(({ id, name }): Command => ({
          ...{ key: `drawing ${id}`, kind: 'drawing', words: name },
          run: open('drawings', id),
        })),
    ];
  }
}
