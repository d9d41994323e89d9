import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { MatMenuHarness } from '@angular/material/menu/testing';
import { forceLinting, forEachDiagnostic } from '@codemirror/lint';
import { EditorView, runScopeHandlers } from '@codemirror/view';
import { NameRule } from '../../src/forms/name-rule';
import { all, show } from '../support/parts';

async function shown(rule: string, ofSheet = true) {
  TestBed.resetTestingModule();
  const fixture = await show(NameRule, { caption: 'File name', rule, ofSheet });
  const edits: string[] = [];
  fixture.componentInstance.edited.subscribe((edited) => edits.push(edited));
  const view = EditorView.findFromDOM(all(fixture, 'fx-rule-editor')[0]!)!;
  const type = (text: string): void => {
    const { from, to } = view.state.selection.main;
    view.dispatch({
      changes: { from, to, insert: text },
      selection: { anchor: from + text.length },
      userEvent: 'input.type',
    });
  };
  const toEnd = (): void => view.dispatch({ selection: { anchor: view.state.doc.length } });
  const press = (key: string): boolean => runScopeHandlers(view, new KeyboardEvent('keydown', { key }), 'editor');
  return { fixture, edits, view, type, toEnd, press };
}
const wrong = (fixture: ComponentFixture<unknown>): string => all(fixture, '.wrong')[0]!.textContent!;

describe('a naming rule', () => {
  it('says what is wrong with it, and marks it', async () => {
    const { fixture, view } = await shown('[page] [sheet.number');
    expect(wrong(fixture)).toContain('never closed');
    const content = view.contentDOM;
    expect([content.getAttribute('aria-invalid'), content.getAttribute('aria-label')]).toEqual(['true', 'File name']);
    expect(content.getAttribute('aria-describedby')).toBe(all(fixture, '.wrong')[0]!.id);
    fixture.componentRef.setInput('rule', '[sheet.number]');
    await fixture.whenStable();
    expect([wrong(fixture), content.getAttribute('aria-invalid')]).toEqual(['', 'false']);
  });

  it('underlines what is wrong where it stands', async () => {
    const { view } = await shown('[page > shout] x');
    view.dispatch({ changes: { from: 16, insert: 'y' } });
    forceLinting(view);
    // Faults are gathered by promises that are resolved already.
    await new Promise((resolve) => setTimeout(resolve));
    const found: string[] = [];
    forEachDiagnostic(view.state, (_, from, to) => found.push(view.state.sliceDoc(from, to)));
    expect(found).toEqual(['> shout']);
  });

  it('shows its fields apart from its text', async () => {
    const { view } = await shown('A [page] (?[sheet.title])');
    const marks = (kind: string): (string | null)[] =>
      [...view.contentDOM.querySelectorAll(`.fx-rule-${kind}`)].map((mark) => mark.textContent);
    expect(marks('field')).toEqual(['[page]', '[sheet.title]']);
    expect(marks('bracket')).toEqual(['(?', ')']);
  });

  it('completes a field on Enter, even before the list has opened, and closes it', async () => {
    const { view, edits, type, press } = await shown('');
    type('[sheet.nu');
    expect(press('Enter')).toBe(true);
    expect(edits.at(-1)).toBe('[sheet.number]');
    expect(view.state.selection.main.head).toBe('[sheet.number]'.length);
  });

  it('completes steps after ">", which need no bracket', async () => {
    const { edits, type, press, toEnd } = await shown('[sheet.title > ]');
    toEnd();
    press('ArrowLeft');
    type('upp');
    press('Enter');
    expect(edits.at(-1)).toMatch(/^\[sheet\.title > .*\]$/);
  });

  it('offers fields of a sheet for names of sheets only', async () => {
    for (const [ofSheet, expected] of [
      [true, '[sheet.number]'],
      [false, '[sheet.num'],
    ] as const) {
      const { edits, type, press } = await shown('', ofSheet);
      type('[sheet.num');
      press('Enter');
      expect(edits.at(-1)).toBe(expected);
    }
  });

  it('never breaks its line', async () => {
    const { view, edits, type, press } = await shown('Plan');
    press('Enter');
    expect([view.state.doc.toString(), edits]).toEqual(['Plan', []]);
    view.dispatch({ selection: { anchor: 0, head: 4 } });
    type('[page] \n x');
    expect(edits).toEqual(['[page] x']);
  });

  it('shows another rule without calling that an edit', async () => {
    const { fixture, view, edits } = await shown('[page]');
    fixture.componentRef.setInput('rule', '[pages]');
    await fixture.whenStable();
    expect([view.state.doc.toString(), edits]).toEqual(['[pages]', []]);
  });

  it('gets a field from the menu at the cursor, and a ready rule whole', async () => {
    const { fixture, edits, toEnd } = await shown('No. ');
    toEnd();
    const [ready, fields] = await TestbedHarnessEnvironment.loader(fixture).getAllHarnesses(MatMenuHarness);
    await fields!.open();
    await fields!.clickItem({ text: /^\[sheet\.number\]/ });
    expect(edits.at(-1)).toBe('No. [sheet.number]');
    await ready!.open();
    await ready!.clickItem({ text: /^Number and title/ });
    expect(edits.at(-1)).toBe('[sheet.number] [sheet.title]');
  });
});
