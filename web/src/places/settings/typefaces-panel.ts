import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatTableModule } from '@angular/material/table';
import { Store } from '@ngrx/store';
import { fontKey, noteStylesOf, ownTypefaceFor, type OwnTypeface, type ProjectFacts } from '@folvex/core';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { selectAllDrawings } from '../../state/drawings/drawings.selectors';
import { NoticeActions } from '../../state/notices/notices.actions';
import { SettingsActions } from '../../state/project/project.actions';
import { projectFeature } from '../../state/project/project.reducer';
import { SettingsEditor } from '../../state/project/settings-editor';
import { DropFiles } from '../../ui/drop-files';
import { showOwnTypeface } from '../../ui/own-typeface';
import { countOf, fontInWords } from '../../ui/words';

const EMBEDDING = {
  whole: 'Its licence only allows embedding the whole font, which makes files larger.',
  none: 'Its licence forbids embedding: PDFs show it as outlines over searchable text.',
} as const;

/** The project's own typefaces, and the typeface that each font in its drawings is shown in. */
@Component({
  selector: 'fx-typefaces',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, DropFiles, MatButton, MatIcon, MatIconButton, MatProgressBar, MatTableModule, TextField],
  templateUrl: './typefaces-panel.html',
  styleUrl: './typefaces-panel.scss',
})
export class TypefacesPanel {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly project = this.store.selectSignal(projectFeature.selectId);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly own = computed(() => this.editor.facts()?.typefaces ?? []);

  protected readonly onTheWay = this.store.selectSignal(projectFeature.selectTypefacesOnTheWay);
  protected readonly typefaces = computed(() =>
    this.own().map(({ id, name, file, hash, asked, embedding }) => ({
      ...{ id, name, file, asked: asked.join(', ') },
      family: hash ? showOwnTypeface(this.project(), hash) : '',
      embedding: embedding ? EMBEDDING[embedding] : '',
    })),
  );
  /** Each font that drawings name, without its folder and extension. */
  protected readonly fonts = computed(() => {
    const fonts = new Map<string, { key: string; asked: string; drawings: string[]; shipped: string }>();
    for (const drawing of this.drawings()) {
      for (const { asked, shown } of drawing.fonts) {
        const key = fontKey(asked);
        const known = fonts.get(key) ?? { key, asked, drawings: [], shipped: fontInWords(shown) };
        fonts.set(key, { ...known, drawings: [...new Set([...known.drawings, drawing.name])] });
      }
    }
    return [...fonts.values()]
      .sort((a, b) => a.key.localeCompare(b.key))
      .map(({ drawings, shipped, ...font }) => ({
        ...font,
        drawings: drawings.length > 2 ? countOf(drawings.length, 'drawing') : drawings.join(', '),
        shown: ownTypefaceFor(this.own(), font.asked)?.id ?? '',
        options: [
          { value: '', words: `shipped ${shipped}` },
          ...this.own().map(({ id, name }) => ({ value: id, words: name })),
        ],
      }));
  });
  protected readonly columns = ['asked', 'drawings', 'shown'];

  protected add(files: readonly File[]): void {
    for (const file of files) this.store.dispatch(SettingsActions.typefacesSent({ file }));
  }

  /** Takes the fonts that a typeface is used for, separated by commas. */
  protected useFor(id: string, names: string): void {
    const asked = names
      .split(',')
      .map((name) => name.trim())
      .filter(Boolean);
    this.change(this.own().map((typeface) => (typeface.id === id ? { ...typeface, asked } : typeface)));
  }

  /** Shows a font of drawings in one of the typefaces, or in the shipped one. */
  protected show(font: string, id: string): void {
    this.change(
      this.own().map((typeface) => {
        const others = typeface.asked.filter((name) => fontKey(name) !== font);
        return { ...typeface, asked: typeface.id === id ? [...others, font] : others };
      }),
    );
  }

  protected remove(id: string): void {
    const user = this.userOf(id);
    if (user) {
      const sentence = `${user} uses this typeface; choose another one there first.`;
      return this.store.dispatch(
        NoticeActions.requestRefused({ problem: { code: 'typeface.used', sentence, place: {} } }),
      );
    }
    this.change(this.own().filter((typeface) => typeface.id !== id));
  }

  /** What is set in a typeface: a text style or a title block. */
  private userOf(id: string): string | undefined {
    const facts: Partial<ProjectFacts> = this.editor.facts() ?? {};
    const style = noteStylesOf(facts).find(({ font }) => font === id);
    if (style) return `The text style ${style.name}`;
    const block = facts.titleBlocks?.find(({ cells }) => cells.some(({ font }) => font === id));
    return block && `The title block ${block.name}`;
  }

  private change(typefaces: OwnTypeface[]): void {
    this.editor.changeFacts({ typefaces });
  }
}
