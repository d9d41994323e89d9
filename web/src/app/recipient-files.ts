import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButton, MatIconButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { MatTableModule } from '@angular/material/table';
import { Store } from '@ngrx/store';
import { path, ROUTES } from '@folvex/contract';
import { bytesInWords } from '@folvex/core';
import { TextField } from '../forms/text-field';
import { RecipientFilesActions } from '../state/recipient-files/recipient-files.actions';
import { recipientFilesFeature } from '../state/recipient-files/recipient-files.reducer';
import { countOf, momentInWords } from '../ui/words';
import { GatePage } from './gate-page';

/** What somebody was sent by email, to download; without an account. */
@Component({
  selector: 'fx-recipient-files',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [GatePage, MatButton, MatIcon, MatIconButton, MatTableModule, TextField],
  template: `
    <fx-gate title="Files for you" [wide]="content() !== null">
      @if (content(); as sent) {
        <p>
          <b>{{ sent.projectNumber }} {{ sent.projectName }}</b
          ><br />
          {{ sent.packageName }}, published {{ published() }}, from {{ sent.from }}
        </p>
        <div class="files">
          <table mat-table aria-label="Files" [dataSource]="files()">
            <ng-container matColumnDef="name">
              <th mat-header-cell *matHeaderCellDef>File</th>
              <td mat-cell *matCellDef="let file">{{ file.path }}</td>
            </ng-container>
            <ng-container matColumnDef="pages">
              <th mat-header-cell *matHeaderCellDef class="measure">Pages</th>
              <td mat-cell *matCellDef="let file" class="measure">{{ file.pages }}</td>
            </ng-container>
            <ng-container matColumnDef="size">
              <th mat-header-cell *matHeaderCellDef class="measure">Size</th>
              <td mat-cell *matCellDef="let file" class="measure">{{ file.size }}</td>
            </ng-container>
            <ng-container matColumnDef="save">
              <th mat-header-cell *matHeaderCellDef><span class="fx-visually-hidden">Download</span></th>
              <td mat-cell *matCellDef="let file">
                <a matIconButton [href]="file.href" download [attr.aria-label]="'Download ' + file.path">
                  <mat-icon svgIcon="download" aria-hidden="true" />
                </a>
              </td>
            </ng-container>
            <tr mat-header-row *matHeaderRowDef="columns; sticky: true"></tr>
            <tr mat-row *matRowDef="let row; columns: columns"></tr>
          </table>
        </div>
        <div class="foot">
          <a matButton="filled" [href]="zip()" download>Download all, {{ total() }}</a>
          <p class="quiet">
            Available until {{ sent.lastDay }}. {{ sent.from }} can see when you open this page and what you download.
          </p>
        </div>
      } @else if (asksForPassword()) {
        <p>This page asks for a password, which the sender has.</p>
        <form (submit)="$event.preventDefault(); enter()" aria-label="Show files">
          <fx-text
            caption="Password"
            placeholder="xxxx-xxxx-xxxx"
            [value]="password()"
            [problem]="tried() ? (problem()?.sentence ?? '') : ''"
            (typed)="password.set($event); tried.set(false)"
          />
          <button matButton="filled" type="submit" [disabled]="loading()">Show files</button>
        </form>
      } @else if (problem(); as met) {
        <p role="alert">{{ met.sentence }}</p>
        @if (!isOver()) {
          <button matButton type="button" (click)="ask()">Try again</button>
        }
      } @else {
        <p class="fx-skeleton line" role="status" aria-label="Loading the files"></p>
      }
    </fx-gate>
  `,
  styles: `
    p {
      margin: 0;
      overflow-wrap: anywhere;
    }
    .line {
      height: 20px;
    }
    .files {
      max-height: 60vh;
      overflow: auto;
    }
    table {
      width: 100%;
    }
    td {
      overflow-wrap: anywhere;
    }
    .measure {
      text-align: right;
      white-space: nowrap;
      font-variant-numeric: tabular-nums;
    }
    .foot {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: var(--fx-gap-3);
    }
    .foot p {
      flex: 1 1 240px;
    }
    .foot a {
      flex: none;
    }
  `,
})
export class RecipientFilesPage {
  private readonly store = inject(Store);
  /** The last part of the address, which lets somebody in. */
  readonly link = input.required<string>();
  protected readonly content = this.store.selectSignal(recipientFilesFeature.selectContent);
  protected readonly problem = this.store.selectSignal(recipientFilesFeature.selectProblem);
  protected readonly loading = this.store.selectSignal(recipientFilesFeature.selectLoading);
  protected readonly columns = ['name', 'pages', 'size', 'save'];
  protected readonly password = signal('');
  /** True once what was typed was sent, until something else is typed. */
  protected readonly tried = signal(false);
  protected readonly asksForPassword = computed(
    () => this.tried() || this.password() !== '' || this.problem()?.code === 'page.password',
  );
  /** True where asking again is of no use: the link is wrong, or the page has ended. */
  protected readonly isOver = computed(() => ['page.unknown', 'page.ended'].includes(this.problem()?.code ?? ''));
  protected readonly files = computed(() =>
    (this.content()?.files ?? []).map(({ position, path: name, pages, bytes }) => ({
      path: name,
      pages: pages === 0 ? '' : pages,
      size: bytesInWords(bytes),
      href: path(ROUTES.recipientFile, { link: this.link(), index: position }),
    })),
  );
  protected readonly zip = computed(() => path(ROUTES.recipientZip, { link: this.link() }));
  protected readonly total = computed(() => {
    const files = this.content()?.files ?? [];
    return `${countOf(files.length, 'file')}, ${bytesInWords(files.reduce((sum, { bytes }) => sum + bytes, 0))}`;
  });
  protected readonly published = computed(() => momentInWords(this.content()!.publishedAt));

  constructor() {
    effect(() => this.store.dispatch(RecipientFilesActions.pageAskedFor({ link: this.link() })));
  }

  protected ask(): void {
    this.store.dispatch(RecipientFilesActions.pageAskedFor({ link: this.link() }));
  }

  protected enter(): void {
    this.tried.set(true);
    this.store.dispatch(RecipientFilesActions.pageAskedFor({ link: this.link(), password: this.password() }));
  }
}
