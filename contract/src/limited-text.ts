import * as yup from 'yup';

/** A text of at most so many characters. */
export const text = (most: number): yup.StringSchema<string> => yup.string().strict().max(most).defined();
