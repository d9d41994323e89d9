import * as yup from 'yup';

/** Longest id and longest text, characters; most texts say a shorter one. */
export const [MAX_ID, MAX_TEXT] = [200, 100_000];

export const id = yup.string().strict().min(1).max(MAX_ID).required();
export const text = yup.string().strict().max(MAX_TEXT);
export const number = yup.number().strict();

/** An object that refuses keys it does not know; `yup` names them in the error. */
export function only<T extends yup.ObjectShape>(shape: T) {
  return yup.object(shape).noUnknown().strict();
}

export function listOf<T extends yup.ISchema<unknown>>(item: T) {
  return yup.array().strict().of(item).default([]);
}

export function ownListOf<T extends yup.ISchema<unknown>>(item: T, most = 200) {
  return yup.array().strict().of(item).max(most).default(undefined);
}

/** A mapping by ids that people chose. */
export function byId<T>(one: yup.Schema<T>) {
  return yup.mixed<Record<string, T>>().test('entries', '${path} has an entry that is not as it should be', (value) => {
    if (value === undefined) return true;
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
    return Object.values(value).every((entry) => one.isValidSync(entry, { strict: true }));
  });
}
