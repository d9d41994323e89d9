import { scaleProblem } from '@folvex/core';
import * as yup from 'yup';

/** A scale that is typed, or one of some words. */
export function scaleSchema(...also: string[]): yup.StringSchema {
  return yup.string().test('scale', (text = '', context) => {
    const message = scaleProblem(text, also);
    return message === undefined || context.createError({ message });
  });
}
