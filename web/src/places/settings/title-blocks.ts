import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { freeId, SHIPPED_TEMPLATES, templateFromBlock, templatesOf, type TitleTemplate } from '@folvex/core';
import { selectAllDrawings } from '../../state/drawings/drawings.selectors';
import { NoticeActions } from '../../state/notices/notices.actions';
import { SettingsEditor } from '../../state/project/settings-editor';
import { SheetActions } from '../../state/sheets/sheets.actions';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { countOf } from '../../ui/words';
import { TitleEditor } from './title-editor';
import { ChoiceField } from '../../forms/choice-field';

/** The title-block templates of a project; own ones are edited in place, with a sheet's own block as the picture. */
@Component({
  selector: 'fx-title-blocks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, TitleEditor],
  template: `
    <div class="head">
      <h2>Title blocks</h2>
      <fx-choice caption="Template" [value]="shown().id" [options]="templateOptions()" (chosen)="chosen.set($event)" />
      <button matButton type="button" class="fx-act" (click)="copy()">Duplicate to edit</button>
      @if (fromBlocks().length > 0) {
        <fx-choice
          acts
          caption="From a block of a drawing"
          placeholder="Choose a block"
          [options]="blockOptions()"
          (chosen)="fromBlock($event)"
        />
      }
      @if (isOwn(shown().id)) {
        <button matButton type="button" class="fx-act" (click)="remove()">Remove</button>
      }
    </div>
    <fx-title-editor [template]="shown()" [own]="isOwn(shown().id)" (changed)="change($event)" />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      gap: var(--fx-gap-3);
      min-height: 0;
    }
    .head {
      display: flex;
      align-items: end;
      gap: var(--fx-gap-4);
    }
    .head fx-choice {
      width: 250px;
    }
    .fx-act {
      height: var(--fx-row);
    }
  `,
})
export class TitleBlocks {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly drawings = this.store.selectSignal(selectAllDrawings);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  protected readonly templates = computed(() => templatesOf(this.editor.facts() ?? {}));
  private readonly own = computed(() => this.editor.facts()?.titleBlocks ?? []);
  protected readonly chosen = signal('');
  protected readonly shown = computed(
    () => this.templates().find(({ id }) => id === this.chosen()) ?? this.own()[0] ?? SHIPPED_TEMPLATES[0]!,
  );
  protected readonly fromBlocks = computed(() =>
    this.drawings().flatMap((drawing) => drawing.titleBlocks.map((block) => ({ drawing, block }))),
  );

  protected readonly templateOptions = computed(() =>
    this.templates().map(({ id, name }) => ({ value: id, words: this.isOwn(id) ? name : `${name} (shipped)` })),
  );
  protected readonly blockOptions = computed(() =>
    this.fromBlocks().map(({ drawing, block }, at) => ({
      value: at,
      words: `${drawing.name}: ${block.name}, ${countOf(block.blanks.length, 'blank')}`,
    })),
  );

  protected isOwn(id: string): boolean {
    return this.own().some((template) => template.id === id);
  }

  protected change(template: TitleTemplate): void {
    this.editor.changeFacts({
      titleBlocks: this.own().map((one) => (one.id === template.id ? template : one)),
    });
  }

  protected copy(): void {
    const { name, ...rest } = this.shown();
    const words = `${name.replace(/ \(.*\)$/, '')}, ours`;
    const id = freeId(words, this.templates());
    const ids = this.sheets()
      .filter(({ titleBlock }) => titleBlock && (titleBlock.template ?? 'corner') === this.shown().id)
      .map((sheet) => sheet.id);
    this.add({ ...rest, name: words, id });
    if (ids.length > 0) this.offer(name, ids, id);
  }

  /** A copy is used by no sheet yet: those with the original can have it at once. */
  private offer(original: string, ids: string[], template: string): void {
    const sentence = `${countOf(ids.length, 'sheet')} still ${ids.length === 1 ? 'has' : 'have'} ${original}.`;
    const dispatch = SheetActions.severalEdited({ change: { ids, set: { template } } });
    const notice = { sentence, failed: false, action: { words: 'Use the copy instead', dispatch } };
    this.store.dispatch(NoticeActions.noticeShown({ notice }));
  }

  protected fromBlock(at: number): void {
    const found = this.fromBlocks()[at];
    if (found) this.add(templateFromBlock(freeId(found.block.name, this.templates()), found.drawing.id, found.block));
  }

  protected remove(): void {
    const { id, name } = this.shown();
    const uses = this.sheets().filter(({ titleBlock }) => titleBlock?.template === id).length;
    const shippedStays = SHIPPED_TEMPLATES.some((template) => template.id === id);
    if (uses > 0 && !shippedStays) {
      const sentence = `${countOf(uses, 'sheet')} have the title block ${name}; give them another first.`;
      return this.store.dispatch(
        NoticeActions.requestRefused({ problem: { code: 'template.used', sentence, place: {} } }),
      );
    }
    this.editor.changeFacts({ titleBlocks: this.own().filter((one) => one.id !== id) });
  }

  private add(template: TitleTemplate): void {
    this.editor.changeFacts({ titleBlocks: [...this.own(), template] });
    this.chosen.set(template.id);
  }
}
