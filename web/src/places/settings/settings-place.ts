import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import { bytesInWords, freeId, type Group, type KeptNames, type OwnPaper, plottersOf } from '@folvex/core';
import { NoticeActions } from '../../state/notices/notices.actions';
import { StorageLookup } from '../../state/lookups/storage-lookup';
import { SettingsEditor } from '../../state/project/settings-editor';
import { selectIsLead, selectIsOffice, selectIsOwner } from '../../state/session/session.reducer';
import { selectAllSheets } from '../../state/sheets/sheets.selectors';
import { optionsByName } from '../../ui/choices';
import { countOf, paperChoiceInWords } from '../../ui/words';
import { AuditPanel } from './audit-panel';
import { CheckWeights } from './check-weights';
import {
  EXCHANGE_COLUMNS,
  exchangeOf,
  exchangeRow,
  FIELD_COLUMNS,
  fieldOf,
  fieldRow,
  NAMING_COLUMNS,
  NEW_CONTACT,
  PAPER_COLUMNS,
  paperOfRow,
  contactColumns,
  contactOf,
  contactRow,
  PLOTTER_COLUMNS,
  plotterOfRow,
  plotterRow,
  styleColumns,
  styleOf,
  styleRow,
  withIds,
} from './lists';
import { MembersPanel } from './members-panel';
import { Recipes } from './recipes';
import { Rows, type Column, type Row } from '../../forms/rows';
import { CopySettingsPanel } from './copy-settings-panel';
import { TestSheet } from './test-sheet';
import { TitleBlocks } from './title-blocks';
import { InboxesPanel } from './inboxes-panel';
import { TransferPanel } from './transfer-panel';
import { TypefacesPanel } from './typefaces-panel';
import { WebhooksPanel } from './webhooks-panel';
import { ChoiceField } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { MatListItem, MatNavList } from '@angular/material/list';

const SECTIONS = [
  ['project', 'Project'],
  ['groups', 'Groups'],
  ['titleBlocks', 'Title blocks'],
  ['sheetFields', 'Sheet fields'],
  ['textStyles', 'Text styles'],
  ['typefaces', 'Typefaces'],
  ['papers', 'Papers and plotters'],
  ['recipes', 'Recipes'],
  ['namings', 'Naming rules'],
  ['exchanges', 'Exchange'],
  ['people', 'People'],
  ['transfer', 'Servers'],
  ['inboxes', 'Inboxes'],
  ['webhooks', 'Webhooks'],
  ['checks', 'Checks'],
  ['others', 'From another project'],
  ['members', 'Members'],
  ['audit', 'Audit'],
] as const;

/** What holds for a whole project: its facts, its lists of settings, its people, and what others lend it. */
@Component({
  selector: 'fx-settings-place',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    AuditPanel,
    CheckWeights,
    ChoiceField,
    CopySettingsPanel,
    InboxesPanel,
    MatButton,
    MatListItem,
    MatNavList,
    MembersPanel,
    Recipes,
    Rows,
    TextField,
    TestSheet,
    TitleBlocks,
    TransferPanel,
    TypefacesPanel,
    WebhooksPanel,
  ],
  templateUrl: './settings-place.html',
  styleUrl: './settings-place.scss',
})
export class SettingsPlace {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly sheets = this.store.selectSignal(selectAllSheets);
  protected readonly facts = this.editor.facts;
  private readonly isOffice = this.store.selectSignal(selectIsOffice);
  /** Leads alone say who is meant by a name, since packages go there. */
  protected readonly isLead = this.store.selectSignal(selectIsLead);
  private readonly isOwner = this.store.selectSignal(selectIsOwner);
  protected readonly sections = computed(() =>
    SECTIONS.filter(([id]) => {
      if (id === 'members') return this.isOffice();
      if (id === 'audit') return this.isOwner();
      // Their addresses may hold what others must not know.
      return id !== 'webhooks' || this.isLead();
    }),
  );
  protected readonly section = signal<(typeof SECTIONS)[number][0]>('project');

  private readonly stored = inject(StorageLookup).current;
  protected readonly storage = computed(() => {
    const stored = this.stored.answer();
    if (!stored) return this.stored.problem() || '…';
    const used = bytesInWords(stored.usedBytes);
    return stored.maxBytes === null ? `${used} used` : `${used} of ${bytesInWords(stored.maxBytes)} used`;
  });

  protected readonly fieldColumns: readonly Column[] = [
    { key: 'name', caption: 'Name in rules', kind: 'text', share: 1 },
    { key: 'value', caption: 'What it says', kind: 'text', optional: true, share: 2 },
  ];
  protected readonly projectFields = computed(() =>
    Object.entries(this.facts()?.fields ?? {}).map(([name, value]): Row => ({ name, value })),
  );
  protected readonly groupColumns: readonly Column[] = [{ key: 'name', caption: 'Name', kind: 'text', share: 2 }];
  protected readonly groups = computed(() => this.editor.groups().map(({ id, name }): Row => ({ id, name })));
  /** Groups that say how their sheets are, with that in words. */
  protected readonly groupSettings = computed(() =>
    this.editor.groups().flatMap(({ id, name, sheets }) =>
      sheets
        ? [
            {
              id,
              name,
              words: [
                sheets.paper && paperChoiceInWords(sheets.paper),
                sheets.frame && `frame ${sheets.frame}`,
                sheets.marks?.length && `marks ${sheets.marks.join(', ')}`,
                sheets.template && `title block ${sheets.template}`,
              ]
                .filter(Boolean)
                .join('; '),
            },
          ]
        : [],
    ),
  );
  protected readonly sheetFieldColumns = FIELD_COLUMNS;
  protected readonly sheetFields = computed(() => (this.facts()?.sheetFields ?? []).map(fieldRow));
  protected readonly styleColumns = computed(() => styleColumns(this.facts()?.typefaces));
  protected readonly styles = computed(() => (this.facts()?.textStyles ?? []).map(styleRow));
  protected readonly paperColumns = PAPER_COLUMNS;
  protected readonly papers = computed(() => (this.facts()?.papers ?? []).map((paper): Row => ({ ...paper })));
  protected readonly plotterColumns = PLOTTER_COLUMNS;
  protected readonly plotters = computed(() => (this.facts()?.plotters ?? []).map(plotterRow));
  protected readonly plotterOptions = computed(() => [
    { value: '', words: 'none in particular' },
    ...optionsByName(this.allPlotters()),
  ]);
  private readonly allPlotters = computed(() => plottersOf(this.facts() ?? {}));
  protected readonly namingColumns = NAMING_COLUMNS;
  protected readonly namings = computed(() => (this.facts()?.namings ?? []).map((names): Row => ({ ...names })));

  protected readonly newContact = NEW_CONTACT;
  protected readonly contactColumns = computed(() => {
    const stated = (this.facts()?.people ?? []).flatMap((person) => person.groups ?? []);
    return contactColumns([...new Set([...this.editor.groups().map(({ name }) => name), ...stated])]);
  });
  protected readonly people = computed(() => (this.facts()?.people ?? []).map(contactRow));

  protected readonly exchangeColumns = EXCHANGE_COLUMNS;
  protected readonly exchanges = computed(() => (this.facts()?.exchanges ?? []).map(exchangeRow));

  protected readonly exchangeBlank = computed(() =>
    exchangeRow({ id: '', name: `Exchange ${this.exchanges().length + 1}` }),
  );

  protected say(key: 'number' | 'name' | 'client', value: string): void {
    if (value.trim() !== this.facts()?.[key]) this.editor.changeFacts({ [key]: value.trim() });
  }

  protected setProjectFields(rows: Row[]): void {
    const fields = Object.fromEntries(rows.map((row) => [String(row['name']), String(row['value'])]));
    this.editor.changeFacts({ fields });
  }

  /** A group with sheets cannot be removed. */
  protected setGroups(rows: Row[]): void {
    const now = this.editor.groups();
    const gone = now.find(({ id }) => !rows.some((row) => row['id'] === id) && this.within(id) > 0);
    if (gone) {
      const sentence = `${gone.name} still has ${countOf(this.within(gone.id), 'sheet')}; move them to another group first.`;
      return this.store.dispatch(
        NoticeActions.requestRefused({ problem: { code: 'group.used', sentence, place: {} } }),
      );
    }
    const groups = rows.map((row): Group => {
      const name = String(row['name']);
      const known = now.find(({ id }) => id === row['id']);
      return known ? { ...known, name } : { id: freeId(name, now), name };
    });
    this.editor.changeGroups(groups);
  }

  protected within(group: string): number {
    return this.sheets().filter((sheet) => sheet.group === group).length;
  }

  /** Removes what a group sets for its sheets. */
  protected freeGroup(id: string): void {
    this.editor.changeGroups(this.editor.groups().map((group) => (group.id === id ? { id, name: group.name } : group)));
  }

  protected setSheetFields(rows: Row[]): void {
    this.editor.changeFacts({ sheetFields: rows.map(fieldOf) });
  }

  protected setStyles(rows: Row[]): void {
    this.editor.changeFacts({ textStyles: withIds(rows).map(styleOf) });
  }

  protected setPapers(rows: Row[]): void {
    this.editor.changeFacts({ papers: rows.map((row): OwnPaper => paperOfRow(row)) });
  }

  protected setPlotters(rows: Row[]): void {
    this.editor.changeFacts({ plotters: withIds(rows).map(plotterOfRow) });
  }

  protected choosePlotter(plotter: string): void {
    this.editor.changeFacts({ plotter });
  }

  protected setExchanges(rows: Row[]): void {
    this.editor.changeFacts({ exchanges: withIds(rows).map(exchangeOf) });
  }

  protected setPeople(rows: Row[]): void {
    this.editor.changeFacts({ people: withIds(rows).map(contactOf) });
  }

  protected setNamings(rows: Row[]): void {
    this.editor.changeFacts({ namings: withIds(rows) as unknown as KeptNames[] });
  }
}
