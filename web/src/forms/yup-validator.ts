import type { AbstractControl, ValidationErrors, ValidatorFn } from '@angular/forms';
import type { Schema } from 'yup';

/** The key under which a control holds the sentence of its schema. */
export const YUP_ERROR = 'yup';

/** The sentence that a schema has against a value; undefined where the value is right. */
export function problemWith(schema: Schema, value: unknown): string | undefined {
  try {
    schema.validateSync(value, { strict: true });
    return undefined;
  } catch (error) {
    return (error as Error).message;
  }
}

/** Validates a control by a Yup schema, the one that the server uses. */
export function yupValidator(schema: Schema): ValidatorFn {
  return ({ value }: AbstractControl): ValidationErrors | null => {
    const sentence = problemWith(schema, value);
    return sentence === undefined ? null : { [YUP_ERROR]: sentence };
  };
}
