import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatIcon } from '@angular/material/icon';
import { findingKey, type Finding, type Fix } from '@folvex/core';
import { TextField } from '../../../forms/text-field';
import { countOf } from '../../../ui/words';
import { groupedFindings, type FindingGroup } from './finding-groups';
import { FindingRow, SEVERITY_ICONS } from './finding-row';

/** Findings of a kind that are shown at once when it is opened. */
const SHOWN_AT_ONCE = 15;

/** What the checks found, stops first; findings of one kind are one row that opens. */
@Component({
  selector: 'fx-findings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FindingRow, MatButton, MatIcon, TextField],
  template: `
    <ul aria-label="Findings">
      @for (group of groups(); track group.key) {
        @if (group.findings.length === 1) {
          <li>
            <fx-finding-row
              [finding]="group.findings[0]!"
              [isAdded]="isAdded(group.findings[0]!)"
              (opened)="opened.emit(group.findings[0]!)"
              (fixed)="fixed.emit([$event])"
              (accepted)="accepted.emit({ findings: group.findings, reason: $event })"
            />
          </li>
        } @else {
          <li [class]="group.severity" [class.accepted]="group.accepted">
            <button matButton type="button" class="kind" [attr.aria-expanded]="isOpen(group)" (click)="toggle(group)">
              <mat-icon [svgIcon]="group.accepted ? 'check' : icons[group.severity]" aria-hidden="true" />
              <span class="fx-visually-hidden">{{ group.severity }}: </span>
              <span class="words">{{ group.words }}</span>
              <b class="count">{{ counted(group.findings.length, 'place') }}</b>
            </button>
            <p class="ways">
              @if (group.accepted) {
                <button
                  matButton
                  type="button"
                  class="fx-act"
                  (click)="accepted.emit({ findings: group.findings, reason: '' })"
                >
                  Undo accepting all
                </button>
              } @else {
                @if (fixesOf(group); as fixes) {
                  @if (fixes.length > 0) {
                    <button matButton type="button" class="fx-act" (click)="fixed.emit(fixes)">
                      {{ fixes.length === 1 ? fixes[0]!.words : 'Fix all' }}
                    </button>
                  }
                }
                @if (group.severity !== 'stop') {
                  @if (accepting() === group.key) {
                    <fx-text
                      bare
                      caption="Reason for accepting all"
                      placeholder="Reason for accepting all"
                      (entered)="acceptAll(group, $event)"
                      (keydown.escape)="accepting.set('')"
                    />
                  } @else {
                    <button matButton type="button" class="fx-act" (click)="accepting.set(group.key)">
                      Accept all …
                    </button>
                  }
                }
              }
            </p>
            @if (isOpen(group)) {
              <ul [attr.aria-label]="group.words">
                @for (finding of group.findings.slice(0, shown()); track key(finding)) {
                  <li>
                    <fx-finding-row
                      [finding]="finding"
                      [isAdded]="isAdded(finding)"
                      (opened)="opened.emit(finding)"
                      (fixed)="fixed.emit([$event])"
                      (accepted)="accepted.emit({ findings: [finding], reason: $event })"
                    />
                  </li>
                }
              </ul>
              @if (group.findings.length > shown()) {
                <button matButton type="button" class="fx-act" (click)="showMore()">
                  Show more ({{ group.findings.length - shown() }} left)
                </button>
              }
            }
          </li>
        }
      } @empty {
        <li class="good">
          <mat-icon svgIcon="check_circle" aria-hidden="true" />
          <p>Names, order and sheets are in order.</p>
        </li>
      }
    </ul>
    <p class="fx-visually-hidden" aria-live="polite">{{ summary() }}</p>
  `,
  styleUrl: './findings.scss',
})
export class Findings {
  readonly findings = input.required<readonly Finding[]>();
  /** Ids of pages that the package adds: they are not sheets, and cannot be opened. */
  readonly added = input<readonly string[]>([]);
  /** The sheet of a finding is being opened. */
  readonly opened = output<Finding>();
  readonly fixed = output<Fix[]>();
  /** Findings that are accepted; without a reason they are no longer. */
  readonly accepted = output<{ findings: readonly Finding[]; reason: string }>();
  protected readonly groups = computed(() => groupedFindings(this.findings()));
  protected readonly summary = computed(() => countOf(this.findings().length, 'finding'));
  protected readonly icons = SEVERITY_ICONS;
  protected readonly key = findingKey;
  protected readonly counted = countOf;
  /** Kinds that a person opened or closed, by key. */
  private readonly toggled = signal<Readonly<Record<string, boolean>>>({});
  protected readonly shown = signal(SHOWN_AT_ONCE);
  /** Key of the kind for which a reason is being typed. */
  protected readonly accepting = signal('');

  protected isAdded({ about }: Finding): boolean {
    return about !== undefined && this.added().includes(about);
  }

  /** What stops a run is open from the start. */
  protected isOpen({ key, severity }: FindingGroup): boolean {
    return this.toggled()[key] ?? severity === 'stop';
  }

  protected toggle(group: FindingGroup): void {
    const open = !this.isOpen(group);
    this.toggled.update((toggled) => ({ ...toggled, [group.key]: open }));
    this.shown.set(SHOWN_AT_ONCE);
  }

  protected showMore(): void {
    this.shown.update((shown) => shown + SHOWN_AT_ONCE);
  }

  /** The fixes of a kind, each once; none where some of its findings cannot be fixed with a press. */
  protected fixesOf({ findings }: FindingGroup): Fix[] {
    const fixes = findings.flatMap(({ fix }) => fix ?? []);
    if (fixes.length < findings.length) return [];
    const seen = new Set<string>();
    return fixes.filter((fix) => {
      const key = JSON.stringify(fix);
      return !seen.has(key) && seen.add(key);
    });
  }

  protected acceptAll({ findings }: FindingGroup, reason: string): void {
    if (!reason.trim()) return;
    this.accepting.set('');
    this.accepted.emit({ findings, reason: reason.trim() });
  }
}
