import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { faultOf, FIELD_HELP, NAME_PRESETS } from '@folvex/core';
import { RuleEditor } from './rule-editor';

/** A rule to edit, of a name or a text, with menus that insert a field or begin from a rule that offices often use. */
@Component({
  selector: 'fx-name-rule',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatMenu, MatMenuItem, MatMenuTrigger, RuleEditor],
  templateUrl: './name-rule.html',
  styleUrl: './name-rule.scss',
})
export class NameRule {
  readonly caption = input.required<string>();
  readonly rule = input.required<string>();
  /** True where the name is of one sheet, so that its fields have values. */
  readonly ofSheet = input(false, { transform: booleanAttribute });
  /** True for a text of several lines. */
  readonly multiline = input(false, { transform: booleanAttribute });
  readonly edited = output<string>();

  private static count = 0;
  protected readonly id = `name-rule-${NameRule.count++}`;
  private readonly editor = viewChild(RuleEditor);
  protected readonly fault = computed(() => faultOf(this.rule())?.sentence ?? '');
  protected readonly presets = NAME_PRESETS;
  /** What each field is, by its path. */
  protected readonly fields = computed(() =>
    Object.fromEntries(Object.entries(FIELD_HELP).filter(([path]) => this.ofSheet() || !/^(sheet\.|page$)/.test(path))),
  );
  protected readonly offered = computed(() => Object.entries(this.fields()).map(([path, help]) => ({ path, help })));

  protected insert(path: string): void {
    this.editor()?.insert(`[${path}]`);
  }

  protected focus(): void {
    this.editor()?.focus();
  }
}
