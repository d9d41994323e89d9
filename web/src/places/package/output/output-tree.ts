import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { isPicture } from '@folvex/core';
import type { FileToWrite } from '../../../engine/plan-protocol';
import type { IconName } from '../../../ui/icons';
import { countOf } from '../../../ui/words';

/** Files that are listed before more are asked for. */
const FILES_AT_ONCE = 200;

interface Folder {
  path: string;
  files: (FileToWrite & { name: string; icon: IconName })[];
}

/** The files of an output plan by folder, each with its pages. */
@Component({
  selector: 'fx-output-tree',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatIcon],
  template: `
    @for (folder of shownFolders(); track folder.path) {
      @if (folder.path) {
        <p class="folder"><mat-icon svgIcon="folder" aria-hidden="true" />{{ folder.path }}</p>
      }
      <ul [class.inside]="folder.path">
        @for (item of folder.files; track $index) {
          <li>
            <button
              matButton
              type="button"
              class="fx-row"
              (click)="toggle(item)"
              [attr.aria-expanded]="item.pages.length > 1 ? open().has(item.path) : null"
              [disabled]="item.pages.length < 2"
            >
              <mat-icon [svgIcon]="item.icon" aria-hidden="true" />
              <span class="name" [class.none]="!item.name">{{ item.name || 'no name' }}</span>
              <span class="count">{{ item.pages.length > 1 ? counted(item.pages.length, 'page') : '' }}</span>
            </button>
            @if (item.pages.length > 1 && open().has(item.path)) {
              <ol>
                @for (page of item.pages; track $index) {
                  <li>{{ page }}</li>
                }
              </ol>
            }
          </li>
        }
      </ul>
    } @empty {
      <p class="quiet">Nothing yet: see the checks.</p>
    }
    @if (left() > 0) {
      <button matButton type="button" class="fx-act" (click)="showMore()">
        Show more ({{ counted(left(), 'file') }} left)
      </button>
    }
  `,
  styleUrl: './output-tree.scss',
})
export class OutputTree {
  readonly files = input.required<readonly FileToWrite[]>();
  /** Paths of the files whose pages are listed. */
  protected readonly open = signal<ReadonlySet<string>>(new Set());
  protected readonly counted = countOf;
  protected readonly folders = computed(() => {
    const byPath = new Map<string, Folder>();
    for (const file of this.files()) {
      const slash = file.path.lastIndexOf('/');
      const path = slash < 0 ? '' : file.path.slice(0, slash);
      const folder = byPath.get(path) ?? { path, files: [] };
      byPath.set(path, folder);
      const icon: IconName = file.path === '' ? 'error' : file.format && isPicture(file.format) ? 'image' : 'draft';
      folder.files.push({ ...file, name: file.path.slice(slash + 1), icon });
    }
    return [...byPath.values()];
  });

  private readonly most = signal(FILES_AT_ONCE);
  protected readonly left = computed(() => Math.max(0, this.files().length - this.most()));
  protected readonly shownFolders = computed(() => {
    let room = this.most();
    return this.folders().flatMap(({ path, files }) => {
      const shown = files.slice(0, room);
      room -= shown.length;
      return shown.length > 0 ? [{ path, files: shown }] : [];
    });
  });

  protected showMore(): void {
    this.most.update((most) => most + FILES_AT_ONCE);
  }

  protected toggle({ path }: FileToWrite): void {
    const next = new Set(this.open());
    if (!next.delete(path)) next.add(path);
    this.open.set(next);
  }
}
