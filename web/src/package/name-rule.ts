import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { FIELD_HELP, parseRule } from '@folvex/core';

/** A naming rule to edit: the text itself, with a menu that puts fields into it where the cursor is. */
@Component({
  selector: 'fx-name-rule',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatMenu, MatMenuItem, MatMenuTrigger],
  template: `
    <div class="head">
      <label class="fx-caption" [for]="id">{{ caption() }}</label>
      <button mat-button type="button" [matMenuTriggerFor]="menu"><mat-icon>data_array</mat-icon>Field</button>
      <mat-menu #menu>
        @for (field of offered(); track field.path) {
          <button mat-menu-item type="button" (click)="insert(field.path)">
            <span class="path">[{{ field.path }}]</span> {{ field.help }}
          </button>
        }
      </mat-menu>
    </div>
    <textarea
      #text
      rows="2"
      class="fx-field"
      [id]="id"
      [value]="rule()"
      (input)="edited.emit(oneLine(text.value))"
      (keydown.enter)="$event.preventDefault()"
      [attr.aria-invalid]="wrong() !== ''"
      [attr.aria-describedby]="id + 'w'"
      spellcheck="false"
      autocomplete="off"
    ></textarea>
    <p class="wrong" [id]="id + 'w'">{{ wrong() }}</p>
  `,
  styles: `
    :host {
      display: block;
    }
    .head {
      display: flex;
      align-items: center;
      justify-content: space-between;
    }
    textarea {
      height: auto;
      padding-block: 4px;
      resize: none;
      font-family: var(--fx-code);
      font-size: 13px;
    }
    .wrong:not(:empty) {
      margin-top: 2px;
      color: var(--fx-signal);
    }
    .path {
      font-family: var(--fx-code);
      font-size: 13px;
    }
  `,
})
export class NameRule {
  readonly caption = input.required<string>();
  readonly rule = input.required<string>();
  /** True where the name is of one sheet, so that its fields have values. */
  readonly ofSheet = input(false, { transform: booleanAttribute });
  readonly edited = output<string>();

  private static count = 0;
  protected readonly id = `name-rule-${NameRule.count++}`;
  private readonly text = viewChild.required<ElementRef<HTMLTextAreaElement>>('text');
  protected readonly wrong = computed(() => {
    const parsed = parseRule(this.rule());
    return parsed.ok ? '' : parsed.problem.sentence;
  });
  protected readonly offered = computed(() =>
    Object.entries(FIELD_HELP)
      .filter(([path]) => this.ofSheet() || !/^(sheet\.|page$)/.test(path))
      .map(([path, help]) => ({ path, help })),
  );

  /** A rule is one line; breaks that came with a paste become spaces. */
  protected oneLine(text: string): string {
    return text.replace(/\s*\n\s*/g, ' ');
  }

  protected insert(path: string): void {
    const { nativeElement: field } = this.text();
    const { selectionStart, selectionEnd, value } = field;
    const [from, to] = [selectionStart ?? value.length, selectionEnd ?? value.length];
    field.setRangeText(`[${path}]`, from, to, 'end');
    field.focus();
    this.edited.emit(field.value);
  }
}
