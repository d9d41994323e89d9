import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { templateOf, templatesOf, typedFields, type ProjectFacts, type Sheet } from '@folvex/core';
import type { SheetFields } from '@folvex/contract';
import { ChoiceField } from '../../../forms/choice-field';
import { TextField } from '../../../forms/text-field';
import { projectFeature } from '../../../state/project/project.reducer';
import { optionsByName } from '../../../ui/choices';

const NORTH = { name: 'north', caption: 'North, degrees from upwards', required: false };

/** The title block of a sheet: its template, and what of it is typed; all else fills itself. */
@Component({
  selector: 'fx-title-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, TextField],
  template: `
    <fx-choice
      caption="Title block"
      [value]="chosen()?.id ?? ''"
      [options]="templateOptions()"
      (chosen)="choose($event)"
    />
    <div class="pair">
      @for (field of fields(); track field.name) {
        <fx-text
          [attr.data-field]="'title.' + field.name"
          [caption]="field.caption"
          [value]="field.value"
          [placeholder]="field.inherited"
          [problem]="field.blank ? 'Fill this in.' : ''"
          (entered)="typed(field.name, $event)"
        />
      }
    </div>
  `,
  styleUrl: './panel.scss',
})
export class TitlePanel {
  readonly sheet = input.required<Sheet>();
  readonly changed = output<Partial<SheetFields>>();

  private readonly facts = inject(Store).selectSignal(projectFeature.selectFacts);
  private readonly project = computed(
    (): Pick<ProjectFacts, 'titleBlocks' | 'fields'> => this.facts() ?? { fields: {} },
  );
  protected readonly templateOptions = computed(() => [
    { value: '', words: 'none' },
    ...optionsByName(templatesOf(this.project())),
  ]);
  protected readonly chosen = computed(() => {
    const { titleBlock } = this.sheet();
    return titleBlock && templateOf(this.project(), titleBlock);
  });
  /** The fields typed for this sheet, with the project's values where nothing is typed. */
  protected readonly fields = computed(() => {
    const template = this.chosen();
    if (!template) return [];
    const hasNorth = template.cells.some(({ kind }) => kind === 'north');
    return [...typedFields(template), ...(hasNorth ? [NORTH] : [])].map((field) => {
      const value = this.sheet().titleBlock?.fields[field.name] ?? '';
      const inherited = this.project().fields[field.name] ?? '';
      return { ...field, value, inherited, blank: field.required && value.trim() === '' && inherited.trim() === '' };
    });
  });

  protected choose(template: string): void {
    const fields = this.sheet().titleBlock?.fields ?? {};
    this.changed.emit({ titleBlock: template === '' ? null : { template, fields } });
  }

  protected typed(name: string, value: string): void {
    const { titleBlock } = this.sheet();
    if (!titleBlock || value.trim() === (titleBlock.fields[name] ?? '')) return;
    const fields = { ...titleBlock.fields, [name]: value.trim() };
    if (value.trim() === '') delete fields[name];
    this.changed.emit({ titleBlock: { ...titleBlock, fields } });
  }
}
