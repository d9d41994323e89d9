import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgTemplateOutlet } from '@angular/common';
import { MatButton } from '@angular/material/button';
import { Store } from '@ngrx/store';
import {
  differsFromDefault,
  displayValue,
  freeId,
  rangeHint,
  type Recipe,
  type RecipeField,
  recipeFields,
  recipeInWords,
  withDefault,
  withField,
} from '@folvex/core';
import { NoticeActions } from '../../state/notices/notices.actions';
import { selectAllPackages } from '../../state/packages/packages.selectors';
import { SettingsEditor } from '../../state/project/settings-editor';
import * as yup from 'yup';
import type { Schema } from 'yup';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { MatListItem, MatListItemLine, MatListItemTitle, MatNavList } from '@angular/material/list';

/** The recipes of a project: one of them open, changed settings first. */
@Component({
  selector: 'fx-recipes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    ChoiceField,
    MatButton,
    MatListItem,
    MatListItemLine,
    MatListItemTitle,
    MatNavList,
    NgTemplateOutlet,
    TextField,
  ],
  templateUrl: './recipes.html',
  styleUrl: './recipes.scss',
})
export class Recipes {
  private readonly store = inject(Store);
  private readonly editor = inject(SettingsEditor);
  private readonly packages = this.store.selectSignal(selectAllPackages);
  private readonly chosenId = signal('');
  protected readonly recipes = this.editor.recipes;
  protected readonly chosen = computed(
    () => this.recipes().find(({ id }) => id === this.chosenId()) ?? this.recipes()[0],
  );
  private readonly fields = computed(() => recipeFields(this.editor.facts() ?? {}));
  protected readonly differing = computed(() => {
    const recipe = this.chosen();
    return recipe ? this.fields().filter((field) => differsFromDefault(recipe, field)) : [];
  });
  /** What is as usual, by topic. */
  protected readonly usual = computed(() => {
    const others = this.fields().filter((field) => !this.differing().includes(field));
    const topics = [...new Set(others.map(({ topic }) => topic))];
    return topics.map((topic) => ({ topic, fields: others.filter((field) => field.topic === topic) }));
  });
  protected readonly words = computed(() => {
    const recipe = this.chosen();
    return recipe ? recipeInWords(recipe, this.editor.facts() ?? {}) : '';
  });
  /** Packages that are published with the chosen one. */
  protected readonly used = computed(() => this.packages().filter(({ recipe }) => recipe === this.chosen()?.id));
  protected readonly usedBy = computed(() =>
    this.used()
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly shownValue = displayValue;

  protected optionsOf({ choices }: RecipeField): Choosable<string>[] {
    return choices.map(([value, words]) => ({ value, words }));
  }

  /** What may be typed into a field: whatever a recipe takes. */
  protected schemaOf(field: RecipeField): Schema {
    const recipe = this.chosen()!;
    return yup.string().test('field', rangeHint(field), (text = '') => withField(recipe, field, text) !== undefined);
  }

  protected count(recipe: Recipe): number {
    return this.fields().filter((field) => differsFromDefault(recipe, field)).length;
  }

  protected choose(id: string): void {
    this.chosenId.set(id);
  }

  protected set(recipe: Recipe, field: RecipeField, typed: string): void {
    const changed = withField(recipe, field, typed);
    if (changed) this.replace(changed);
  }

  protected reset(recipe: Recipe, field: RecipeField): void {
    this.replace(withDefault(recipe, field));
  }

  protected rename(recipe: Recipe, name: string): void {
    if (name.trim() && name.trim() !== recipe.name) this.replace({ ...recipe, name: name.trim() });
  }

  protected add(like: Recipe = { id: '', name: '', colour: 'full', layers: 'shown' }): void {
    const name = like.name ? `${like.name}, another` : `Recipe ${this.recipes().length + 1}`;
    const id = freeId(name, this.recipes());
    this.send([...this.recipes(), { ...like, id, name }]);
    this.choose(id);
  }

  /** One that a package is published with cannot go. */
  protected remove(recipe: Recipe): void {
    const [used] = this.used();
    if (!used) return this.send(this.recipes().filter(({ id }) => id !== recipe.id));
    const sentence = `The package ${used.name} is published with the recipe ${recipe.name}; give it another first.`;
    this.store.dispatch(NoticeActions.requestRefused({ problem: { code: 'recipe.used', sentence, place: {} } }));
  }

  private replace(changed: Recipe): void {
    this.send(this.recipes().map((one) => (one.id === changed.id ? changed : one)));
  }

  private send(recipes: Recipe[]): void {
    this.editor.send({ recipes, was: { recipes: this.recipes() } });
  }
}
