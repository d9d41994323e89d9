import { withoutPasswords } from '../recipe/recipe';
import type { JobFile } from './model';
import { JOB_FILE_VERSION } from './upgrade';

/** A project as the text of a job file, which `readJobFile` reads; without the passwords of its recipes. */
export function jobFileText({ project: { penSchedules, ...project }, recipes, ...job }: JobFile): string {
  const file = {
    folvex: JOB_FILE_VERSION,
    project,
    ...(penSchedules && { penSchedules }),
    ...job,
    recipes: recipes.map(withoutPasswords),
  };
  return `${JSON.stringify(file, undefined, 2)}\n`;
}
