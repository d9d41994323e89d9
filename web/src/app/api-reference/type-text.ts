import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButton } from '@angular/material/button';
import type { Part } from './type-parts';

/** A type in one line; the names of others in it lead to them. */
@Component({
  selector: 'fx-type-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton],
  template: `@for (part of parts(); track $index) {
    @if (part.type; as type) {
      <button matButton type="button" class="fx-act" (click)="opened.emit(type)">{{ type }}</button>
    } @else {
      <span>{{ part.text }}</span>
    }
  }`,
  styles: `
    :host {
      overflow-wrap: anywhere;
    }
    button.fx-act.mat-mdc-button {
      min-width: 0;
      height: auto;
      padding: 0;
    }
    span {
      white-space: pre-wrap;
    }
  `,
})
export class TypeText {
  readonly parts = input.required<readonly Part[]>();
  readonly opened = output<string>();
}
