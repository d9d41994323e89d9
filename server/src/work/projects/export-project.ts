import {
  jobFileText,
  sourcesShown,
  type JobFileDrawing,
  type LengthUnit,
  type OwnTypeface,
  type Sheet,
} from '@folvex/core';
import { isHeld, sourceId } from '@folvex/press';
import { drawingInfos, drawingSources, type DrawingSource } from '../../data/drawings';
import { packagesOf, sheetsOf } from '../../data/projects';
import { settingsOf } from '../../data/settings';
import { Archive } from '../../files/archive';
import type { Services } from '../services';

/** The name of the job file in an archive. */
export const ARCHIVED_JOB = 'job.json';

/**
 * A project as an archive: its job file, and its drawings below `drawings/`. A view held at an earlier version shows that
 * version as a drawing of its own. Undefined where there is no such project.
 */
export async function exportProject(
  { db, store }: Services,
  projectId: string,
): Promise<{ name: string; archive: Archive } | undefined> {
  const settings = await settingsOf(db, projectId);
  if (!settings) return undefined;
  const [infos, sources, sheets, packages] = await Promise.all([
    drawingInfos(db, projectId),
    drawingSources(db, projectId),
    sheetsOf(db, projectId),
    packagesOf(db, projectId),
  ]);
  const latest = new Map(infos.map((info) => [info.id, info]));
  const versions: Versions = (drawing) => latest.get(drawing)?.version;
  const shown = new Set(sheets.flatMap(sourcesShown).map((one) => shownSource(one, versions)));
  const archive = new Archive();
  const paths = new Set<string>();
  const drawings = sources
    // A removed drawing goes along where undo has brought back a sheet that shows it.
    .filter(({ id }) => shown.has(id) || (!isHeld(id) && !latest.get(id)?.removedAt))
    .map((source): JobFileDrawing => {
      const file = freePath(source, paths);
      archive.file(() => store.localFile(source.hash), file, { mtime: ARCHIVED_AT });
      const windows = latest.get(source.id)?.windows ?? [];
      return { id: source.id, file, unit: unitOf(source), ...(windows.length > 0 && { windows }) };
    });
  const { project, groups, recipes } = settings;
  const typefaces = project.typefaces?.flatMap(({ hash, embedding: _, ...typeface }): OwnTypeface[] => {
    if (!hash) return [];
    const file = `typefaces/${typeface.id}/${typeface.file}`;
    archive.file(() => store.localFile(hash), file, { mtime: ARCHIVED_AT });
    return [{ ...typeface, file }];
  });
  const text = jobFileText({
    project: { ...project, ...(typefaces && { typefaces }) },
    drawings,
    groups,
    recipes,
    sheets: sheets.map((sheet) => withOwnSources(sheet, versions)),
    packages,
  });
  archive.text(text, ARCHIVED_JOB, { mtime: ARCHIVED_AT });
  return { name: [project.number, project.name].filter(Boolean).join(' '), archive };
}

type Versions = (drawing: string) => number | undefined;

/** The same project gives the same archive. */
const ARCHIVED_AT = new Date('2000-01-01T00:00:00Z');

function unitOf({ unit }: DrawingSource): LengthUnit | undefined {
  return (unit ?? undefined) as LengthUnit | undefined;
}

/** The drawing that a view shows, or the earlier version of it. `latest`: the latest version of a drawing by its id. */
function shownSource({ drawing, held }: { drawing: string; held?: number }, latest: Versions): string {
  return held === undefined || held === latest(drawing) ? drawing : sourceId(drawing, held);
}

/** A sheet whose views name what they show by ids of their own. */
function withOwnSources({ views, from, ...sheet }: Sheet, latest: Versions): Sheet {
  const own = <T extends { drawing: string; held?: number }>({ held, ...view }: T): Omit<T, 'held'> => ({
    ...view,
    drawing: shownSource({ drawing: view.drawing, ...(held !== undefined && { held }) }, latest),
  });
  return { ...sheet, views: views.map(own), ...(from && { from: own(from) }) };
}

/** A path that no other drawing has, letter case aside. */
function freePath({ id, name }: DrawingSource, taken: Set<string>): string {
  const [, stem, ending] = /^(.*?)(\.[^.]*)?$/s.exec(name) as unknown as [string, string, string?];
  const called = isHeld(id) ? `${stem} (earlier version)${ending ?? ''}` : name;
  let path = `drawings/${called}`;
  for (let turn = 2; taken.has(path.toLowerCase()); turn++) path = `drawings/${turn}/${called}`;
  taken.add(path.toLowerCase());
  return path;
}
