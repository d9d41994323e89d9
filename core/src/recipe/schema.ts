import * as yup from 'yup';
import { settingSchemas } from '../settings/schema';
import { id, only, text } from '../shapes';
import { RECIPE_SETTINGS } from './settings';

export const recipeSchema = only({
  id,
  name: text.required(),
  ...settingSchemas(RECIPE_SETTINGS),
  protect: only({
    open: text.max(127),
    change: text.max(127),
    allow: yup
      .array()
      .strict()
      .of(text.oneOf(['print', 'change', 'copy']).required()),
  }).default(undefined),
});
