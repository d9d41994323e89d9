import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatProgressBar } from '@angular/material/progress-bar';
import { MatTableModule } from '@angular/material/table';
import { ROUTES } from '@folvex/contract';
import { TextField } from '../../forms/text-field';
import { Lookups } from '../../state/lookups/lookups';
import { requestGroups } from './requests';
import { fieldsOf, partsOf } from './type-parts';
import { TypeText } from './type-text';

/** The API reference, made from the description that the server sends (OpenAPI 3.1). */
@Component({
  selector: 'fx-api-reference',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButton, MatExpansionModule, MatProgressBar, MatTableModule, TextField, TypeText],
  templateUrl: './api-reference.html',
  styleUrl: './api-reference.scss',
})
export class ApiReferencePage {
  private readonly lookup = inject(Lookups).of('apiDescription', () => ({}));
  protected readonly description = this.lookup.answer;
  protected readonly problem = this.lookup.problem;
  protected readonly loading = this.lookup.loading;
  protected readonly document = ROUTES.openApi;
  protected readonly wanted = signal('');
  protected readonly groups = computed(() => {
    const description = this.description();
    return description ? requestGroups(description, this.wanted()) : [];
  });
  /** Name of the type that is shown. */
  protected readonly type = signal('RunInfo');
  protected readonly schema = computed(() => this.description()?.components.schemas[this.type()]);
  protected readonly fields = computed(() => fieldsOf(this.schema() ?? {}));
  protected readonly written = computed(() => partsOf(this.schema() ?? {}));
  protected readonly fieldColumns = ['name', 'type', 'description'];
}
