import { sourcesShown, titleDrawings } from '@folvex/core';
import { drawingById, drawingInfos, findDrawing, type DrawingRow } from '../data/drawings';
import { packagesOf, projectFacts, sheetsOf } from '../data/projects';
import { issueOfRun, setRemoved } from '../data/removal';
import { runById, openRunsOf } from '../data/runs';
import { notFound, Refused } from '../errors';
import type { Services } from './services';

/** How many users of a drawing a sentence names. */
const MOST_NAMED = 5;

/** Removes a project or restores it; one that is being published stays. */
export async function removeProject({ db }: Services, id: string, removed: boolean): Promise<void> {
  const project = await projectFacts(db, id);
  if (!project) throw notFound('The project');
  if (removed && (await openRunsOf(db, id)) > 0) {
    const sentence = `${project.facts.name} is being published; wait for the run to end, or cancel it.`;
    throw new Refused(409, 'project.publishing', sentence);
  }
  await setRemoved(db, 'project', id, removed);
}

/** Removes a drawing or restores it; one that is used somewhere stays. */
export async function removeDrawing({ db }: Services, id: string, removed: boolean): Promise<void> {
  const drawing = await drawingById(db, id);
  if (!drawing) throw notFound('The drawing');
  const { projectId, name, hash } = drawing;
  if (removed) {
    const users = await usersOf({ db }, drawing);
    if (users.length > 0) {
      const named = users.slice(0, MOST_NAMED).join(', ');
      const more = users.length > MOST_NAMED ? ` and ${users.length - MOST_NAMED} more` : '';
      const sentence = `${name} is used by ${named}${more}; remove it there first.`;
      throw new Refused(409, 'drawing.used', sentence, { file: name });
    }
  } else {
    const same = (await findDrawing(db, projectId, { hash })) ?? (await findDrawing(db, projectId, { name }));
    if (same && same.id !== id) {
      const sentence = `${name} cannot be restored: ${same.name}, with the same name or content, was added in the meantime.`;
      throw new Refused(409, 'drawing.replaced', sentence, { file: name });
    }
  }
  await setRemoved(db, 'drawing', id, removed);
}

/** Removes a run or restores it; one that goes on, or that was issued, stays. */
export async function removeRun({ db }: Services, id: string, removed: boolean): Promise<void> {
  const run = await runById(db, id);
  if (!run) throw notFound('The run');
  if (removed && (run.state === 'waiting' || run.state === 'running')) {
    throw new Refused(409, 'run.open', `${run.packageName} is being published; cancel the run before you remove it.`);
  }
  const issue = removed ? await issueOfRun(db, id) : undefined;
  if (issue !== undefined) {
    const sentence = `This run of ${run.packageName} was issued as issue ${issue}, so it cannot be removed.`;
    throw new Refused(409, 'run.issued', sentence);
  }
  await setRemoved(db, 'run', id, removed);
}

/** What uses a drawing: numbers of sheets, names of packages, and drawings that refer to its file. */
async function usersOf({ db }: Pick<Services, 'db'>, { projectId, id, name }: DrawingRow): Promise<string[]> {
  const [project, sheets, packages, drawings] = await Promise.all([
    projectFacts(db, projectId),
    sheetsOf(db, projectId),
    packagesOf(db, projectId),
    drawingInfos(db, projectId),
  ]);
  const shows = sheets.filter(
    (sheet) =>
      sourcesShown(sheet).some(({ drawing }) => drawing === id) ||
      titleDrawings(project?.facts ?? { number: '', name: '', client: '', fields: {} }, sheet).includes(id),
  );
  const refers = drawings.filter(
    ({ removedAt, references }) =>
      removedAt === null && references.some((file) => file.toLowerCase() === name.toLowerCase()),
  );
  const adds = packages.filter(({ extras = [] }) => extras.some(({ drawing }) => drawing === id));
  return [
    ...shows.map(({ number }) => number),
    ...adds.map((pack) => `package ${pack.name}`),
    ...refers.map((other) => other.name),
  ];
}
