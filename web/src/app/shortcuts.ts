import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle } from '@angular/material/dialog';

/** Every key that does something, by place. */
@Component({
  selector: 'fx-shortcuts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle],
  template: `
    <h2 mat-dialog-title>Keys</h2>
    <mat-dialog-content>
      @for (part of parts; track part.title) {
        <h3 class="fx-caption">{{ part.title }}</h3>
        <dl>
          @for (line of part.lines; track line[0]) {
            <dt>
              <kbd>{{ line[0] }}</kbd>
            </dt>
            <dd>{{ line[1] }}</dd>
          }
        </dl>
      }
    </mat-dialog-content>
    <mat-dialog-actions><button mat-button mat-dialog-close type="button">Close</button></mat-dialog-actions>
  `,
  styles: `
    dl {
      display: grid;
      grid-template-columns: 150px 1fr;
      gap: 4px var(--fx-gap-3);
      margin-bottom: var(--fx-gap-3);
    }
    kbd {
      padding: 1px 6px;
      border: 1px solid var(--fx-line-strong);
      border-radius: var(--fx-radius);
      font: 500 13px var(--fx-label);
    }
  `,
})
export class Shortcuts {
  protected readonly parts: readonly { title: string; lines: readonly [string, string][] }[] = [
    {
      title: 'Everywhere',
      lines: [
        ['1 – 5', 'go to a place of the rail'],
        ['Ctrl + Z', 'take the last change of a sheet or setting back'],
        ['Ctrl + Shift + Z', 'do it again'],
        ['?', 'show these keys'],
      ],
    },
    {
      title: 'A drawing',
      lines: [
        ['Arrows', 'move'],
        ['+ and -', 'zoom in, zoom out'],
        ['0', 'show all'],
        ['Escape', 'stop measuring or drawing a window'],
      ],
    },
    {
      title: 'Sheets',
      lines: [
        ['Arrows', 'move between sheets'],
        ['Space', 'choose a sheet, or no longer'],
        ['Shift + arrows', 'choose a range'],
        ['A', 'choose all; again: none'],
        ['Enter', 'open the sheet'],
        ['+ and -', 'larger, smaller'],
      ],
    },
    {
      title: 'A sheet',
      lines: [
        ['Arrows', 'move the chosen view by 1 mm; with Shift by 10 mm'],
        ['Delete', 'take the chosen view off'],
        ['+ and -, wheel', 'zoom in, zoom out'],
        ['0', 'whole sheet'],
        ['Enter, Escape', 'close an outline; give it up, or choose nothing'],
      ],
    },
    {
      title: 'Pens',
      lines: [['Up, down', 'hang the chosen layer on the next rung']],
    },
    {
      title: 'Package',
      lines: [
        ['← →', 'move between pages'],
        ['Shift + ← →', 'move the page in the reading order'],
        ['Home, End', 'first, last page; with Shift move it there'],
        ['Delete', 'take the page out'],
      ],
    },
    {
      title: 'Light table',
      lines: [
        ['Page up, page down', 'page before, page after'],
        ['+ and -', 'larger, smaller'],
        ['0', 'whole page'],
        ['/', 'search the text'],
      ],
    },
  ];
}
