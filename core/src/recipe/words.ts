import { schedulesOf, type PenSchedule } from '../pens/schedule';
import type { Recipe } from './recipe';
import { RECIPE_SETTINGS, type RecipeSetting } from './settings';

/** What a recipe does, in one sentence. */
export function recipeInWords(recipe: Recipe, project: { penSchedules?: PenSchedule[] }): string {
  const effective = withoutEffectless(recipe);
  const parts = RECIPE_SETTINGS.flatMap((setting) => partOf(setting, effective, project) || []);
  return `Prints ${parts.join(', ')}.`;
}

/** A recipe without what its version of PDF has no use for: 1.4 knows no layers, and A-2b none that only print. */
function withoutEffectless(recipe: Recipe): Recipe {
  const layered = recipe.layers !== 'none' && recipe.version !== '1.4';
  const effective: Recipe = { ...recipe, layers: layered ? recipe.layers : 'none' };
  if (!layered) delete effective.layersByView;
  if (!layered) delete effective.layersLocked;
  if (!layered || recipe.version === 'A-2b') delete effective.layersPrintOnly;
  return effective;
}

function partOf(setting: RecipeSetting, recipe: Recipe, project: { penSchedules?: PenSchedule[] }): string {
  const value = recipe[setting.key as keyof Recipe];
  switch (setting.kind) {
    case 'id': {
      const schedule = schedulesOf(project).find(({ id }) => id === value);
      return schedule?.rules.length ? `with the pens ${schedule.name}` : 'with lines as they are drawn';
    }
    case 'number': {
      const [before, after] = setting.sentence;
      return value === undefined || value === setting.neutral ? '' : `${before}${String(value)}${after}`;
    }
    case 'patterns': {
      const patterns = (value as string[] | undefined) ?? [];
      return patterns.length > 0 ? `${patterns.join(', ')} ${setting.sentence}` : '';
    }
    case 'choice':
      return (setting.options.find((option) => option.value === value) ?? setting.options[0]!).sentence;
  }
}
