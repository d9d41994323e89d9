import { readFile, rm } from 'node:fs/promises';
import {
  ProblemError,
  STANDARD_NAMES,
  STANDARD_RECIPE,
  transmittalPages,
  type Issue,
  type ProjectFacts,
} from '@folvex/core';
import type { Services } from '../services';

/** The transmittal of an issue as a PDF, made as sheets are. The same issue gives the same bytes. */
export async function transmittalPdf(
  { store, press }: Pick<Services, 'store' | 'press'>,
  project: ProjectFacts,
  issue: Issue,
): Promise<Uint8Array> {
  const sheets = transmittalPages(issue, project);
  const folder = store.workFolder;
  const recipe = { ...STANDARD_RECIPE, layers: 'none' as const };
  const parts: Record<string, { path: string; hash: string }> = {};
  const temporary: string[] = [];
  try {
    for (const sheet of sheets) {
      const made = await press.makeSheet({ project, sheet, recipe, drawings: [], folder, part: true, formats: [] });
      if (!made.ok) throw new ProblemError(made.problem);
      const part = made.value.part!;
      temporary.push(part.temporary);
      parts[sheet.id] = { path: part.temporary, hash: part.hash };
    }
    const name = `Transmittal ${issue.number}`;
    const file = { path: `${name}.pdf`, sheets: sheets.map(({ id }) => id), wanted: name, blank: [], unknown: [] };
    const made = await press.assemble({
      ...{ project, sheets, recipe, file, parts, folder, groups: [] },
      package: { id: '', name, recipe: '', order: file.sheets, bundling: 'one', names: STANDARD_NAMES },
      plan: { files: [file], sheets: [] },
    });
    temporary.push(made.temporary);
    return await readFile(made.temporary);
  } finally {
    for (const path of temporary) await rm(path, { force: true });
  }
}
