import { nativeControls } from '../lint/controls.mjs';

describe('native controls in templates', () => {
  it.each([
    ['<select #a class="b"></select>', ['select']],
    ['<details><summary>More</summary></details>', ['details']],
    ['<input #on type="checkbox" [checked]="a > b" />', ['checkbox']],
    ['<input\n  type="date"\n  [value]="day()"\n/>', ['date or range']],
    ['<input class="fx-field" [value]="name" />', ['text field']],
    ['<textarea rows="2"></textarea>', ['text field']],
    ['<table aria-label="Sheets"></table>', ['table']],
    ['<button type="button" class="matter">x</button>', ['button']],
    ['<span [title]="why">x</span>', ['tooltip']],
  ])('are found: %s', (template, kinds) => {
    expect(nativeControls(template)).toEqual(kinds);
  });

  it.each([
    '<button type="button" matIconButton></button>',
    '<button mat-menu-item type="button"></button>',
    '<mat-select [value]="a"></mat-select>',
    '<input matInput type="text" [formControl]="control" />',
    '<mat-slider><input matSliderThumb [value]="a" /></mat-slider>',
    '<input #file hidden type="file" (change)="read(file)" />',
    '<table mat-table [dataSource]="rows()"></table>',
    '<fx-empty-state title="No sheets yet"></fx-empty-state>',
    '<!-- <select> is not taken -->',
  ])('are not found where Material has its own, or none: %s', (template) => {
    expect(nativeControls(template)).toEqual([]);
  });
});
