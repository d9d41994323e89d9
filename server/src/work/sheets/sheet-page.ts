import type { ComposedSheets } from '@folvex/contract';
import {
  contextOf,
  pagePlaces,
  plainInputs,
  ProblemError,
  STANDARD_RECIPE,
  type Sheet,
  type SheetFacts,
} from '@folvex/core';
import { findArtifact, saveArtifacts } from '../../data/artifacts';
import { drawingSources } from '../../data/drawings';
import { packagesOf, projectFacts, sheetsOf } from '../../data/projects';
import { notFound } from '../../errors';
import { SOURCE_HASHES } from '../../model/sources';
import type { Services } from '../services';
import { inputHash, sheetInput, sheetTask, type SheetInput } from './sheet-task';

/** Hashes of the packed page of a sheet, and of its facts as JSON. */
export interface ComposedSheet {
  page: string;
  facts: string;
}

/** The pages of sheets, composed with the project as it was when this was made. */
export class SheetPages {
  private constructor(
    private readonly services: Services,
    private readonly inputOf: (sheet: Sheet) => SheetInput,
  ) {}

  static async of(services: Services, projectId: string): Promise<SheetPages> {
    const { db } = services;
    const project = await projectFacts(db, projectId);
    if (!project) throw notFound('The project');
    const [sheets, packages] = await Promise.all([sheetsOf(db, projectId), packagesOf(db, projectId)]);
    const sources = await drawingSources(db, projectId);
    const places = pagePlaces(packages);
    return new SheetPages(services, (sheet) => {
      const context = contextOf(project.facts, sheet, sheets, places.get(sheet.id));
      return sheetInput(plainInputs(project.facts, sheet, context, STANDARD_RECIPE), sources);
    });
  }

  /** What is in the store already. */
  async find(sheet: Sheet): Promise<ComposedSheet | undefined> {
    return this.stored(keyOf(this.inputOf(sheet)));
  }

  /** Composes a sheet where it is not in the store yet. */
  async make(sheet: Sheet): Promise<ComposedSheet> {
    const { db, store, press } = this.services;
    const input = this.inputOf(sheet);
    const key = keyOf(input);
    const found = await this.stored(key);
    if (found) return found;
    const composed = await press.makePage(await sheetTask(store, input));
    if (!composed.ok) throw new ProblemError(composed.problem);
    const { page: packed, ...facts }: { page: Uint8Array } & SheetFacts = composed.value;
    const made = { page: await store.put(packed), facts: await store.put(Buffer.from(JSON.stringify(facts))) };
    await saveArtifacts(db, [
      { kind: 'page', key, hash: made.page },
      { kind: 'page-facts', key, hash: made.facts },
    ]);
    return made;
  }

  private async stored(key: string): Promise<ComposedSheet | undefined> {
    const { db, store } = this.services;
    const [page, facts] = [await findArtifact(db, 'page', key), await findArtifact(db, 'page-facts', key)];
    return page && facts && (await store.has(page)) && (await store.has(facts)) ? { page, facts } : undefined;
  }
}

/** Kept small, so that a page someone is waiting for does not queue behind hundreds that the checks ask for. */
const COMPOSED_AT_ONCE = 4;

/** How sheets come out; those that cannot be composed have their problem. */
export async function composeSheets(
  services: Services,
  projectId: string,
  sheets: readonly Sheet[],
): Promise<ComposedSheets> {
  const pages = await SheetPages.of(services, projectId);
  const composed: ComposedSheets = { facts: {}, problems: {} };
  const compose = async (sheet: Sheet): Promise<void> => {
    try {
      composed.facts[sheet.id] = await readFacts(services, await pages.make(sheet));
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      composed.problems[sheet.id] = error.problem;
    }
  };
  for (let at = 0; at < sheets.length; at += COMPOSED_AT_ONCE) {
    await Promise.all(sheets.slice(at, at + COMPOSED_AT_ONCE).map(compose));
  }
  return composed;
}

/** The page of one sheet, made where it is not in the store yet. */
export async function pageOf(services: Services, projectId: string, sheet: Sheet): Promise<ComposedSheet> {
  return (await SheetPages.of(services, projectId)).make(sheet);
}

/** How a composed sheet came out. */
export async function readFacts({ store }: Services, { facts }: ComposedSheet): Promise<SheetFacts> {
  return JSON.parse((await store.read(facts)).toString()) as SheetFacts;
}

function keyOf(input: SheetInput): string {
  return `${SOURCE_HASHES.page} ${inputHash(input)}`;
}
