import { customType } from 'drizzle-orm/pg-core';
import { storableJson } from './storable';
import { STORED_KINDS, type StoredKind } from '../model/stored-kinds';

/** The form in which a document is stored in the database. */
export interface StoredDocument {
  version: number;
  value: unknown;
}

/**
 * A column of JSON documents that carry a version. What is read has the newest version, since older ones are upgraded
 * when the server starts (`upgrade-stored.ts`), and the shape that its kind must have; anything else is an error.
 */
export function stored<T>(name: string, kind: StoredKind) {
  return customType<{ data: T; driverData: string }>({
    dataType: () => 'jsonb',
    toDriver: (value) => storableJson({ version: STORED_KINDS[kind].version, value } satisfies StoredDocument),
    fromDriver: (document) => valueOf(kind, document as unknown) as T,
  })(name);
}

/** The value of a stored document; throws where it is not one of this version and kind. */
export function valueOf(kind: StoredKind, document: unknown): unknown {
  const { version, isValid } = STORED_KINDS[kind];
  const { version: found, value } = (document ?? {}) as Partial<StoredDocument>;
  if (found !== version) throw new Error(`a stored ${kind} has version ${String(found)}, not ${version}`);
  if (!isValid(value)) throw new Error(`a stored ${kind} is damaged`);
  return value;
}
