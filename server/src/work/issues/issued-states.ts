import type { IssuedState } from '@folvex/core';
import { isHeld } from '@folvex/press';
import type { Database } from '../../data/database';
import { issuesOf } from '../../data/issues';
import { runById } from '../../data/runs';

/** Each sheet of a project as the latest issue that holds it has it. */
export async function issuedStates(db: Database, projectId: string): Promise<IssuedState[]> {
  const found = new Map<string, IssuedState>();
  for (const { number, runId, sheets } of (await issuesOf(db, projectId)).reverse()) {
    const newer = sheets.filter(({ id }) => !found.has(id));
    const run = newer.length > 0 ? await runById(db, runId) : undefined;
    if (!run) continue;
    const contents = Object.fromEntries(
      run.input.drawings.flatMap(({ id, hash }) => (isHeld(id) ? [] : [[id, hash] as const])),
    );
    const bySheet = new Map(run.input.sheets.map((sheet) => [sheet.id, sheet]));
    for (const { id, revision } of newer) {
      const sheet = bySheet.get(id);
      if (sheet) found.set(id, { issue: number, revision, sheet, contents });
    }
  }
  return [...found.values()];
}
