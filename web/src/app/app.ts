import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { filter, map } from 'rxjs';
import { EditActions } from '../state/edits/edits.actions';
import { editsFeature } from '../state/edits/edits.reducer';
import { selectHistory } from '../state/edits/edits.selectors';
import { ProjectActions, SettingsActions } from '../state/project/project.actions';
import { projectFeature } from '../state/project/project.reducer';
import { selectSettingsUnsent } from '../state/project/project.selectors';
import { SessionActions } from '../state/session/session.actions';
import { selectAccount, selectIsReader, sessionFeature } from '../state/session/session.reducer';
import { selectOpenRun } from '../state/runs/runs.selectors';
import { SheetEditor } from '../state/sheets/sheet-editor';
import { projectOptions } from '../ui/choices';
import { isTyping, pressedKey, shortcutOf } from '../ui/shortcuts';
import { APP_KEYS, placeAt, PLACES, SETTINGS } from './places';
import { People } from './people';
import { StorageWarning } from './storage-warning';
import { QuickSearch } from './quick-search';
import { Shortcuts } from './shortcuts';
import { MatTooltip } from '@angular/material/tooltip';
import { ChoiceField } from '../forms/choice-field';
import { ProjectLinks } from '../state/project/project-links';
import { keepFocus } from './keep-focus';
import { showNotices } from './show-notices';
import { tellRunEnds } from './run-ends';

const STEPS = [
  { way: 'undo', words: 'Undo' },
  { way: 'redo', words: 'Redo' },
] as const;
const LIGHT_KEY = 'folvex.light';

/** The frame around every place: the rail, what runs in the background, notices. */
@Component({
  selector: 'fx-app',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    MatButton,
    MatIcon,
    MatIconButton,
    MatProgressBar,
    MatTooltip,
    People,
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    StorageWarning,
  ],
  templateUrl: './app.html',
  styleUrl: './app.scss',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class App {
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialog);
  protected readonly to = inject(ProjectLinks).to;
  protected readonly places = PLACES;
  protected readonly settings = SETTINGS;
  protected readonly status = this.store.selectSignal(projectFeature.selectStatus);
  protected readonly facts = this.store.selectSignal(projectFeature.selectFacts);
  protected readonly projects = this.store.selectSignal(projectFeature.selectProjects);
  protected readonly projectOptions = computed(() => projectOptions(this.projects() ?? []));
  protected readonly openProject = this.store.selectSignal(projectFeature.selectId);
  protected readonly loadProblem = this.store.selectSignal(projectFeature.selectLoadProblem);
  protected readonly history = this.store.selectSignal(selectHistory);
  protected readonly lastStep = this.store.selectSignal(editsFeature.selectLastStep);
  protected readonly editing = this.store.selectSignal(editsFeature.selectEditing);
  private readonly editor = inject(SheetEditor);
  private readonly unsentSheets = this.editor.unsent;
  private readonly unsentSettings = this.store.selectSignal(selectSettingsUnsent);
  protected readonly unsent = computed(() => this.unsentSheets().length > 0 || this.unsentSettings());
  protected readonly steps = STEPS;
  private readonly address = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
    ),
    { initialValue: '' },
  );
  /** True in the places where sheets, packages and settings are changed, which is what can be undone. */
  protected readonly undoable = computed(() => placeAt(this.address())?.undoable ?? false);
  /** True in a project; false on the first page. */
  protected readonly inProject = computed(() => placeAt(this.address()) !== undefined);
  /** True on the pages that come before signing in. */
  protected readonly outside = computed(() => /^\/(sign-in|join|files)\b/.test(this.address()));
  protected readonly account = this.store.selectSignal(selectAccount);
  private readonly session = this.store.selectSignal(sessionFeature.selectInfo);
  protected readonly isReader = this.store.selectSignal(selectIsReader);
  protected readonly openRun = this.store.selectSignal(selectOpenRun);
  protected readonly runShare = computed(() => {
    const run = this.openRun();
    if (!run) return 0;
    const made = run.sheets.filter((sheet) => sheet.state !== 'waiting').length;
    return (100 * made) / Math.max(1, run.sheets.length);
  });
  protected readonly dark = signal(rememberedLight() ?? matchMedia('(prefers-color-scheme: dark)').matches);

  constructor() {
    if (rememberedLight() !== undefined) this.applyLight();
    this.store.dispatch(SessionActions.sessionAskedFor());
    showNotices();
    tellRunEnds();
    keepFocus();
  }

  protected open(projectId: string): void {
    void this.router.navigate(['/projects', projectId]);
  }

  protected sendAgain(): void {
    this.editor.sendAgain();
    // An edit that changes nothing sends what was not sent before.
    if (this.unsentSettings()) this.store.dispatch(SettingsActions.settingsEdited({ change: {} }));
  }

  protected take(way: 'undo' | 'redo'): void {
    this.store.dispatch(EditActions.stepAskedFor({ way }));
  }

  protected retry(): void {
    if (this.session() === null) this.store.dispatch(SessionActions.sessionAskedFor());
    this.store.dispatch(ProjectActions.reloadAskedFor());
  }

  protected switchLight(): void {
    this.dark.update((dark) => !dark);
    localStorage.setItem(LIGHT_KEY, this.dark() ? 'dark' : 'light');
    this.applyLight();
  }

  private applyLight(): void {
    document.documentElement.style.colorScheme = this.dark() ? 'dark' : 'light';
  }

  protected showQuickSearch(): void {
    if (this.dialog.openDialogs.length > 0) return;
    this.dialog.open(QuickSearch, { width: '560px', position: { top: '72px' }, ariaLabel: 'Quick search' });
  }

  protected showShortcuts(): void {
    this.dialog.open(Shortcuts, { width: '460px' });
  }

  protected onKey(event: KeyboardEvent): void {
    const shortcut = shortcutOf(event, APP_KEYS);
    if (shortcut === 'undo' || shortcut === 'redo') {
      if (!this.undoable() || hasOwnUndo(event.target)) return;
      event.preventDefault();
      if (this.history()[shortcut]) this.take(shortcut);
    } else if (shortcut === 'quickSearch') {
      event.preventDefault();
      this.showQuickSearch();
    } else if (isTyping(event) || this.dialog.openDialogs.length > 0) {
      return;
    } else if (shortcut === 'open') {
      if (this.openProject())
        void this.router.navigate(this.to(PLACES.find(({ key }) => key === pressedKey(event))!.path));
    } else if (shortcut === 'help') {
      this.showShortcuts();
    }
  }
}

/** True for dark, false for light; undefined while the person follows the system. */
function rememberedLight(): boolean | undefined {
  const light = localStorage.getItem(LIGHT_KEY);
  return light === null ? undefined : light === 'dark';
}

/** True where a field has its own undo for what was typed into it. */
function hasOwnUndo(target: EventTarget | null): boolean {
  const fields = 'input:not([type=checkbox], [type=radio], [type=range], [type=color]), textarea, [contenteditable]';
  return target instanceof HTMLElement && target.closest(fields) !== null;
}
