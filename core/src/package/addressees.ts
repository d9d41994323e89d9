import type { Group } from '../sheet/groups';
import type { Contact, Sheet } from '../sheet/model';
import type { ExtraFormat } from './formats';

/** What decides who gets a file; without a format it is a PDF. */
interface FileContent {
  format?: ExtraFormat | null;
  sheets: readonly string[];
}

/** The parts of a project that say who gets which files. */
interface Directory {
  project: { people?: readonly Contact[] };
  groups: readonly Group[];
  sheets: readonly Pick<Sheet, 'id' | 'group'>[];
}

/**
 * Tells which files an address is sent: those of the formats and groups that the person with that address gets. Several with
 * one address get what each of them gets; an address that is nobody's gets everything, and so does a person of whom nothing
 * is stated. A file with sheets of several groups goes to everybody who gets one of these, and one without any to all.
 */
export function fileFilter({ project, groups, sheets }: Directory, address: string): (file: FileContent) => boolean {
  const people = peopleAt(project, address);
  const groupNames = new Map(groups.map(({ id, name }) => [id, name]));
  const groupOf = new Map(sheets.map(({ id, group }) => [id, groupNames.get(group)]));
  return (file) => people.length === 0 || people.some((contact) => gets(contact, file, groupOf));
}

function gets(
  { formats, groups }: Contact,
  file: FileContent,
  groupOf: ReadonlyMap<string, string | undefined>,
): boolean {
  if (formats && !formats.includes(file.format ?? 'pdf')) return false;
  const among = file.sheets.flatMap((id) => groupOf.get(id) ?? []);
  return !groups || among.length === 0 || among.some((name) => groups.some((one) => isAlike(one, name)));
}

/** Groups stated for the people at an address that the project does not have. */
export function unknownGroups({ project, groups }: Omit<Directory, 'sheets'>, address: string): string[] {
  const stated = peopleAt(project, address).flatMap((contact) => contact.groups ?? []);
  return [...new Set(stated)].filter((name) => !groups.some((group) => isAlike(group.name, name)));
}

/** The people who get issues for a purpose. */
export function peopleFor(purpose: string, people: readonly Contact[]): Contact[] {
  return people.filter(({ purposes = [] }) => purposes.some((one) => isAlike(one, purpose)));
}

function peopleAt({ people = [] }: Directory['project'], address: string): readonly Contact[] {
  return people.filter(({ mail }) => isAlike(mail, address));
}

function isAlike(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase();
}
