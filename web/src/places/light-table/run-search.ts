import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  linkedSignal,
  output,
  resource,
  signal,
} from '@angular/core';
import { MatButton } from '@angular/material/button';
import { path, ROUTES, type RunInfo } from '@folvex/contract';
import { countOf } from '../../ui/words';
import { PdfFile } from './pdf-file';
import { TextField } from '../../forms/text-field';

/** A page of a run on which something was found; counted as the light table does. */
interface FoundPage {
  file: number;
  page: number;
  /** Label of the page, and how often it is there. */
  label: string;
  count: number;
}

const MAX_SHOWN = 100;

/** Searches the texts of all files of a run. */
@Component({
  selector: 'fx-run-search',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, TextField],
  template: `
    <fx-text
      caption="Search all files of the run"
      type="search"
      [value]="wanted()"
      (entered)="wanted.set($event.trim())"
    />
    @if (wanted()) {
      <p role="status">{{ words() }}</p>
      <ol>
        @for (hit of shown(); track $index) {
          <li>
            <button
              matButton
              type="button"
              class="fx-act"
              (click)="chosen.emit({ file: hit.file, page: hit.page, text: wanted() })"
            >
              {{ hit.label }}
            </button>
            {{ hit.count > 1 ? hit.count + ' times' : '' }}
          </li>
        }
      </ol>
    }
  `,
  styles: `
    p {
      margin: 4px 0;
      color: var(--fx-quiet);
    }
    ol {
      max-height: 160px;
      margin: 0;
      padding: 0;
      overflow: auto;
      list-style: none;
    }
  `,
})
export class RunSearch {
  readonly run = input.required<RunInfo>();
  readonly chosen = output<{ file: number; page: number; text: string }>();
  private readonly runId = computed(() => this.run().id);
  protected readonly wanted = linkedSignal({ source: this.runId, computation: () => '' });
  /** Files looked through, and those that could not be opened. */
  private readonly looked = signal({ files: 0, closed: 0 });
  private readonly finding = resource({
    params: () => (this.wanted() ? { run: this.run(), wanted: this.wanted() } : undefined),
    loader: ({ params: { run, wanted }, abortSignal }) => this.find(run, wanted, abortSignal),
  });
  private readonly hits = computed(() => (this.finding.hasValue() ? this.finding.value() : []));
  protected readonly shown = computed(() => this.hits().slice(0, MAX_SHOWN));
  protected readonly words = computed(() => {
    const { files, closed } = this.looked();
    if (this.finding.error()) return 'A file of the run could not be opened; search again.';
    if (this.finding.isLoading()) return `Looking in file ${files + 1} of ${this.run().files.length} …`;
    const locked = closed ? ` ${countOf(closed, 'protected file')} not looked into.` : '';
    return this.hits().length ? `On ${countOf(this.hits().length, 'page')}.${locked}` : `On no page.${locked}`;
  });

  private async find({ id, files }: RunInfo, wanted: string, aborted: AbortSignal): Promise<FoundPage[]> {
    const pages = new Map<string, FoundPage>();
    let closed = 0;
    for (let file = 0; file < files.length && !aborted.aborted; file++) {
      this.looked.set({ files: file, closed });
      let pdf: PdfFile | undefined;
      try {
        pdf = await PdfFile.open(path(ROUTES.runFile, { run: id, index: file }));
        for (const { page } of await pdf.find(wanted)) {
          const known = pages.get(`${file} ${page}`);
          if (known) known.count++;
          else pages.set(`${file} ${page}`, { file, page, label: pdf.labels[page - 1] ?? String(page), count: 1 });
        }
      } catch (error) {
        if ((error as Error).name !== 'PasswordException') throw error;
        closed++;
      } finally {
        pdf?.close();
      }
    }
    this.looked.set({ files: files.length, closed });
    return [...pages.values()];
  }
}
