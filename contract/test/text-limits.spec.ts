import * as yup from 'yup';
import * as accessSchemas from '../src/access-schemas';
import * as schemas from '../src/schemas';
import { projectSchema, viewSchema, noteSchema } from '@folvex/core';

/** Paths of texts of a schema that may be as long as they like. */
function unlimited(described: yup.SchemaFieldDescription, path: string): string[] {
  switch (described.type) {
    case 'string': {
      const { tests, oneOf } = described as yup.SchemaDescription;
      return oneOf.length > 0 || tests.some(({ name }) => name === 'max') ? [] : [path];
    }
    case 'object': {
      const { fields } = described as yup.SchemaObjectDescription;
      return Object.entries(fields).flatMap(([name, field]) => unlimited(field, `${path}.${name}`));
    }
    case 'array': {
      const { innerType } = described as yup.SchemaInnerTypeDescription;
      return [innerType ?? []].flat().flatMap((inner) => unlimited(inner, `${path}[]`));
    }
  }
  return [];
}

it.each(
  Object.entries({ ...schemas, ...accessSchemas, projectSchema, viewSchema, noteSchema }).filter(([, schema]) =>
    yup.isSchema(schema),
  ),
)('each text of %s has a longest length', (name, schema) => {
  expect(unlimited((schema as yup.Schema).describe(), name)).toEqual([]);
});
