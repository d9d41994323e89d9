import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { MatProgressBar } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { newProjectSchema, path, ROUTES, type NewProject, type ProjectSummary } from '@folvex/contract';
import type { PageSource } from '../engine/engine';
import { ChoiceField } from '../forms/choice-field';
import { TextField } from '../forms/text-field';
import { problemWith } from '../forms/yup-validator';
import { ProjectActions } from '../state/project/project.actions';
import { SessionActions } from '../state/session/session.actions';
import { presenceFeature } from '../state/presence/presence.reducer';
import { projectFeature } from '../state/project/project.reducer';
import { projectOptions } from '../ui/choices';
import { confirm } from '../ui/confirm';
import { EmptyState } from '../ui/empty-state';
import { PagePicture } from '../ui/page-picture';
import { peopleInWords } from '../ui/people';
import { RemovedList } from '../ui/removed-list';
import { countOf, momentInWords } from '../ui/words';

/** Every project, with a picture; others are created here, and removed ones restored. */
@Component({
  selector: 'fx-projects',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    EmptyState,
    MatButton,
    MatIcon,
    MatIconButton,
    MatMenu,
    MatMenuItem,
    MatMenuTrigger,
    MatProgressBar,
    PagePicture,
    RemovedList,
    RouterLink,
    TextField,
  ],
  templateUrl: './projects.html',
  styleUrl: './projects.scss',
})
export class Projects {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  private readonly all = this.store.selectSignal(projectFeature.selectProjects);
  protected readonly problem = this.store.selectSignal(projectFeature.selectProjectsProblem);
  private readonly person = this.store.selectSignal(presenceFeature.selectId);
  private readonly everybody = this.store.selectSignal(presenceFeature.selectByProject);
  protected readonly importing = this.store.selectSignal(projectFeature.selectImporting);
  protected readonly loading = computed(() => this.all() === null && this.problem() === null);
  protected readonly projects = computed(() => (this.all() ?? []).filter(({ removedAt }) => removedAt === null));
  protected readonly removed = computed(() =>
    (this.all() ?? [])
      .filter(({ removedAt }) => removedAt !== null)
      .map(({ id, number, name, removedAt }) => ({ id, name: `${number} ${name}`.trim(), removedAt })),
  );
  protected readonly likeOptions = computed(() => [
    { value: '', words: 'standard settings' },
    ...projectOptions(this.projects()),
  ]);
  protected readonly creating = signal(false);
  protected readonly number = signal('');
  protected readonly name = signal('');
  protected readonly like = signal('');
  /** What is wrong with the new project; shown after an attempt to create it. */
  protected readonly mistake = signal('');
  protected readonly width = 340;

  protected coverOf({ id, cover, lastRun }: ProjectSummary): PageSource | null {
    // The version names what the picture depends on, as far as the list says; a newer run has it painted again.
    return (
      cover && {
        url: path(ROUTES.sheetPage, { project: id, sheet: cover.sheet }),
        version: `${id} ${cover.sheet} ${cover.title} ${lastRun?.at ?? ''}`,
      }
    );
  }

  protected contentsOf({ sheets, drawings, packages }: ProjectSummary): string {
    return [countOf(sheets, 'sheet'), countOf(drawings, 'drawing'), countOf(packages, 'package')].join(' · ');
  }

  protected lastOf({ lastRun }: ProjectSummary): string {
    if (!lastRun) return 'Not published yet';
    const { packageName, state, at } = lastRun;
    const how = {
      done: 'published',
      failed: 'failed',
      cancelled: 'cancelled',
      waiting: 'waiting',
      running: 'publishing',
    };
    return `${packageName} ${how[state]}, ${momentInWords(at)}`;
  }

  /** Who has it open, this person first; blank for nobody. */
  protected peopleAt({ id: project }: ProjectSummary): string {
    const people = this.everybody()[project] ?? [];
    const own = this.person();
    const others = people.filter(({ id }) => id !== own);
    return peopleInWords(others.length < people.length ? [{ name: 'you' }, ...others] : others);
  }

  protected create(): void {
    const project: NewProject = {
      number: this.number().trim(),
      name: this.name().trim(),
      ...(this.like() && { like: this.like() }),
    };
    this.mistake.set(problemWith(newProjectSchema, project) ?? '');
    if (this.mistake() === '') this.store.dispatch(ProjectActions.newProjectAskedFor({ project }));
  }

  protected import(input: HTMLInputElement): void {
    const [archive] = input.files ?? [];
    if (archive) this.store.dispatch(ProjectActions.importAskedFor({ archive }));
    // The same file may be picked again.
    input.value = '';
  }

  protected cancelImport(): void {
    this.store.dispatch(ProjectActions.importCancelled());
  }

  protected archiveOf({ id }: ProjectSummary): string {
    return path(ROUTES.projectZip, { project: id });
  }

  protected remove({ id, name, ...project }: ProjectSummary): void {
    confirm(this.dialog, {
      title: `Remove ${name}?`,
      lines: [
        `It has ${this.contentsOf({ id, name, ...project }).replaceAll(' · ', ', ')}.`,
        'Nothing is deleted: you can restore it later at the bottom of this page.',
      ],
      action: 'Remove project',
    }).subscribe((yes) => {
      if (yes) this.restore(id, true);
    });
  }

  protected restore(projectId: string, removed = false): void {
    this.store.dispatch(ProjectActions.projectRemovalAskedFor({ projectId, removed }));
  }

  protected reload(): void {
    // Who is signed in may not be known yet either.
    this.store.dispatch(SessionActions.sessionAskedFor());
  }
}
