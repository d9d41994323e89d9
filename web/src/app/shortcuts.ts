import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle } from '@angular/material/dialog';
import { keysInWords } from '../ui/shortcuts';
import { SHORTCUTS } from './places';

/** Every key that does something, by place. */
@Component({
  selector: 'fx-shortcuts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatDialogActions, MatDialogClose, MatDialogContent, MatDialogTitle],
  template: `
    <h2 mat-dialog-title>Keyboard shortcuts</h2>
    <mat-dialog-content tabindex="0" aria-label="Keys by place" role="region">
      @for (part of parts; track part.title) {
        <h3 class="fx-caption">{{ part.title }}</h3>
        <dl>
          @for (line of part.lines; track $index) {
            <dt>
              <kbd>{{ line.keys }}</kbd>
            </dt>
            <dd>{{ line.words }}</dd>
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
  protected readonly parts = SHORTCUTS.map(({ title, shortcuts }) => ({
    title,
    lines: Object.values(shortcuts).map((shortcut) => ({ keys: keysInWords(shortcut), words: shortcut.words })),
  }));
}
