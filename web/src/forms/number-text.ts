import * as yup from 'yup';
import { problemWith } from './yup-validator';

export interface NumberLimits {
  min: number;
  max: number;
  whole?: boolean;
  /** True where the field may be blank. */
  optional?: boolean;
}

/** A number as it is typed, with a decimal point or comma; NaN for anything else, undefined where nothing is typed. */
export function parseTyped(text: string): number | undefined {
  const trimmed = text.trim();
  return trimmed === '' ? undefined : Number(trimmed.replace(',', '.'));
}

/** A schema for a number within limits, with one sentence for whatever is wrong. */
export function limitedNumber({ min, max, whole, optional }: NumberLimits): yup.Schema {
  const limits = [
    Number.isFinite(min) && `from ${min}`,
    Number.isFinite(max) && `${Number.isFinite(min) ? 'to' : 'up to'} ${max}`,
  ];
  const sentence = `${['Type a', whole && 'whole', 'number', ...limits].filter(Boolean).join(' ')}.`;
  const limited = yup.number().typeError(sentence).min(min, sentence).max(max, sentence);
  const schema = whole ? limited.integer(sentence) : limited;
  return optional ? schema : schema.required(sentence);
}

/** A schema for typed text that checks the number in it by the schema of the number. */
export function typedNumber(schema: yup.Schema): yup.Schema {
  return yup.string().test('number', (text, context) => {
    const problem = problemWith(schema, parseTyped(text ?? ''));
    return problem === undefined || context.createError({ message: problem });
  });
}
