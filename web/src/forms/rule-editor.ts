import {
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  output,
  untracked,
  type OnDestroy,
  type OnInit,
} from '@angular/core';
import {
  acceptCompletion,
  autocompletion,
  completionKeymap,
  type Completion,
  type CompletionSource,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { linter } from '@codemirror/lint';
import { EditorState, RangeSetBuilder, StateField, Transaction, type Extension } from '@codemirror/state';
import { Decoration, EditorView, keymap, type Command, type DecorationSet } from '@codemirror/view';
import { completionAt, faultOf, stretchesOf } from '@folvex/core';

/** The text of a naming rule: its fields stand out, faults are underlined, and what can follow is offered. */
@Component({
  selector: 'fx-rule-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: `
    :host {
      display: block;
      border: 1px solid var(--fx-line-strong);
      border-radius: var(--fx-radius);
    }
    :host(:focus-within) {
      border-color: var(--fx-ink);
      outline: 1px solid var(--fx-ink);
    }
  `,
})
export class RuleEditor implements OnInit, OnDestroy {
  readonly caption = input.required<string>();
  readonly rule = input.required<string>();
  /** What each field is, by its path. */
  readonly fields = input.required<Readonly<Record<string, string>>>();
  /** Id of the element that says what is wrong with the rule. */
  readonly describedBy = input.required<string>();
  readonly multiline = input(false);
  readonly edited = output<string>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private view: EditorView | undefined;

  constructor() {
    // Another rule: one that was chosen, or another package's.
    effect(() => {
      const rule = this.rule();
      untracked(() => this.show(rule));
    });
  }

  ngOnInit(): void {
    this.view = new EditorView({
      parent: this.host.nativeElement,
      state: EditorState.create({ doc: this.rule(), extensions: this.extensions() }),
    });
  }

  ngOnDestroy(): void {
    this.view?.destroy();
  }

  focus(): void {
    this.view?.focus();
  }

  /** Puts a text in place of the selection. */
  insert(text: string): void {
    const { view } = this;
    if (!view) return;
    view.dispatch(view.state.replaceSelection(text), { userEvent: 'input' });
    view.focus();
  }

  private show(rule: string): void {
    const { view } = this;
    if (!view || view.state.doc.toString() === rule) return;
    view.dispatch({
      changes: { from: 0, to: view.state.doc.length, insert: rule },
      annotations: [Transaction.addToHistory.of(false), Transaction.remote.of(true)],
    });
  }

  private extensions(): Extension[] {
    return [
      EditorView.lineWrapping,
      this.multiline() ? SEVERAL_LINES : ONE_LINE,
      history(),
      STRETCHES,
      linter(({ state }) => diagnostics(state), { delay: 0 }),
      autocompletion({
        override: [this.source],
        icons: false,
        // The keys of a fast typist count from the first moment.
        activateOnTypingDelay: 0,
        interactionDelay: 0,
        defaultKeymap: false,
      }),
      keymap.of([
        { key: 'Enter', run: (view) => acceptCompletion(view) || this.completeNow(view) },
        { key: 'Tab', run: acceptCompletion },
        ...completionKeymap.filter(({ key }) => key !== 'Enter'),
        ...historyKeymap,
        ...defaultKeymap,
      ]),
      EditorView.contentAttributes.of(({ state }) => ({
        'aria-label': this.caption(),
        'aria-multiline': String(this.multiline()),
        'aria-describedby': this.describedBy(),
        'aria-invalid': String(faultOf(state.doc.toString()) !== undefined),
        spellcheck: 'false',
      })),
      EditorView.updateListener.of(({ docChanged, transactions, state }) => {
        const own = transactions.some((one) => one.docChanged && !one.annotation(Transaction.remote));
        if (docChanged && own) this.edited.emit(state.doc.toString());
      }),
      LOOK,
    ];
  }

  private readonly source: CompletionSource = ({ state, pos }) => {
    const found = completionAt(state.doc.toString(), pos, this.fields());
    if (!found) return null;
    const options = found.options.map(({ text, help }): Completion => ({
      ...{ label: text, detail: help },
      apply: (view, _, from, to) => this.complete(view, text, from, to),
    }));
    return { from: found.from, to: found.to, options, filter: false };
  };

  /** Enter completes a name even before the list has opened; elsewhere it breaks the line, where there may be several. */
  private readonly completeNow: Command = (view) => {
    const { doc, selection } = view.state;
    const found = completionAt(doc.toString(), selection.main.head, this.fields());
    if (found) this.complete(view, found.options[0]!.text, found.from, found.to);
    return found !== undefined || !this.multiline();
  };

  /** Writes a field or a step; a field is closed, too. */
  private complete(view: EditorView, text: string, from: number, to: number): void {
    const closes = text in this.fields() && view.state.sliceDoc(to, to + 1) !== ']';
    const insert = closes ? `${text}]` : text;
    view.dispatch({
      changes: { from, to, insert },
      selection: { anchor: from + insert.length },
      userEvent: 'input.complete',
    });
  }
}

/** Room for a few lines from the beginning. */
const SEVERAL_LINES = EditorView.theme({ '.cm-content': { minHeight: '5em' } });

/** A rule is one line; breaks that come with a paste become spaces. */
const ONE_LINE = EditorState.transactionFilter.of((transaction) => {
  if (transaction.newDoc.lines === 1) return transaction;
  const text = transaction.newDoc.toString().replace(/\s*\n\s*/g, ' ');
  const changes = { from: 0, to: transaction.startState.doc.length, insert: text };
  return { changes, selection: { anchor: text.length }, userEvent: 'input.paste' };
});

const MARKS = {
  field: Decoration.mark({ class: 'fx-rule-field' }),
  bracket: Decoration.mark({ class: 'fx-rule-bracket' }),
};

/** Fields and the brackets of optional parts, marked. */
const STRETCHES = StateField.define<DecorationSet>({
  create: ({ doc }) => marked(doc.toString()),
  update: (marks, { docChanged, newDoc }) => (docChanged ? marked(newDoc.toString()) : marks),
  provide: (field) => EditorView.decorations.from(field),
});

function marked(rule: string): DecorationSet {
  const marks = new RangeSetBuilder<Decoration>();
  let at = 0;
  for (const { kind, text } of stretchesOf(rule)) {
    if (kind !== 'text') marks.add(at, at + text.length, MARKS[kind]);
    at += text.length;
  }
  return marks.finish();
}

function diagnostics({ doc }: EditorState) {
  const fault = faultOf(doc.toString());
  return fault ? [{ from: fault.from, to: fault.to, severity: 'error' as const, message: fault.sentence }] : [];
}

const LOOK = EditorView.theme({
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'var(--fx-code)', fontSize: '13px', lineHeight: '1.5' },
  '.cm-content': { padding: '4px 8px', caretColor: 'var(--fx-ink)', minHeight: '20px' },
  '.cm-line': { padding: '0' },
  '.cm-cursor': { borderLeftColor: 'var(--fx-ink)' },
  '.fx-rule-field': {
    borderRadius: '3px',
    background: 'var(--fx-table)',
    boxShadow: '0 0 0 1px var(--fx-line)',
  },
  '.fx-rule-bracket': { background: 'var(--fx-table)' },
  '.cm-lintRange-error': {
    backgroundImage: 'none',
    textDecoration: 'underline wavy var(--fx-signal)',
    textUnderlineOffset: '3px',
  },
  '.cm-tooltip': {
    border: '1px solid var(--fx-line-strong)',
    borderRadius: '3px',
    background: 'var(--fx-raised)',
    color: 'var(--fx-ink)',
    boxShadow: 'var(--fx-sheet-shadow)',
  },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--fx-code)', fontSize: '13px', maxHeight: '210px' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '3px 8px' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    background: 'var(--fx-table)',
    color: 'var(--fx-ink)',
  },
  '.cm-completionMatchedText': { textDecoration: 'none' },
  '.cm-completionDetail': {
    marginLeft: '8px',
    color: 'var(--fx-quiet)',
    fontFamily: 'var(--fx-text)',
    fontStyle: 'normal',
  },
  '.cm-diagnostic': { borderLeft: '3px solid var(--fx-signal)', fontFamily: 'var(--fx-text)' },
});
