import {
  booleanAttribute,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  output,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatMenu, MatMenuItem, MatMenuTrigger } from '@angular/material/menu';
import { completionAt, FIELD_HELP, NAME_PRESETS, parseRule, stretchesOf } from '@folvex/core';

/**
 * A naming rule to edit: one text, with its fields shown apart behind it, what can follow offered while writing, and menus
 * that put in a field or begin from a rule that offices often use.
 */
@Component({
  selector: 'fx-name-rule',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon, MatMenu, MatMenuItem, MatMenuTrigger],
  templateUrl: './name-rule.html',
  styleUrl: './name-rule.scss',
})
export class NameRule {
  /** Lines that are there from the start. */
  readonly rows = input(2);
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
  protected readonly stretches = computed(() => stretchesOf(this.rule()));
  protected readonly presets = NAME_PRESETS;
  private readonly fields = computed(() =>
    Object.fromEntries(Object.entries(FIELD_HELP).filter(([path]) => this.ofSheet() || !/^(sheet\.|page$)/.test(path))),
  );
  protected readonly offered = computed(() => Object.entries(this.fields()).map(([path, help]) => ({ path, help })));

  /** Where the cursor is while somebody writes; undefined while nobody does, or after Escape. */
  private readonly place = signal<number | undefined>(undefined);
  /** What stands in the field: keys pressed quickly come before the edited rule is back. */
  private readonly written = linkedSignal(() => this.rule());
  protected readonly completion = computed(() => {
    const place = this.place();
    return place === undefined ? undefined : completionAt(this.written(), place, this.fields());
  });
  protected readonly at = signal(0);
  private readonly list = viewChild<ElementRef<HTMLElement>>('list');

  constructor() {
    // The list may open below the edge of what scrolls.
    effect(() => this.list()?.nativeElement.scrollIntoView({ block: 'nearest' }));
  }

  /** A rule is one line; breaks that came with a paste become spaces. */
  protected write(text: string): void {
    this.written.set(text);
    this.edited.emit(text.replace(/\s*\n\s*/g, ' '));
    this.at.set(0);
    this.place.set(this.text().nativeElement.selectionStart);
  }

  protected key(event: KeyboardEvent): void {
    const options = this.completion()?.options;
    const { key } = event;
    if (key === 'Enter' || (options && ['ArrowDown', 'ArrowUp', 'Tab', 'Escape'].includes(key))) event.preventDefault();
    if (!options) return;
    if (key === 'ArrowDown') this.at.update((at) => (at + 1) % options.length);
    if (key === 'ArrowUp') this.at.update((at) => (at + options.length - 1) % options.length);
    if (key === 'Enter' || key === 'Tab') this.complete(options[this.at()]!.text);
    if (key === 'Escape') this.leave();
  }

  protected leave(): void {
    this.place.set(undefined);
  }

  protected complete(text: string): void {
    const { from, to } = this.completion()!;
    const closes = !text.includes(' ') && this.written()[to] !== ']' && text in this.fields();
    this.replace(closes ? `${text}]` : text, from, to);
    this.leave();
  }

  protected insert(path: string): void {
    const { selectionStart, selectionEnd, value } = this.text().nativeElement;
    this.replace(`[${path}]`, selectionStart ?? value.length, selectionEnd ?? value.length);
  }

  private replace(text: string, from: number, to: number): void {
    const { nativeElement: field } = this.text();
    field.setRangeText(text, from, to, 'end');
    field.focus();
    this.written.set(field.value);
    this.edited.emit(field.value);
  }
}
