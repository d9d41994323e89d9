import type { JsonSchema } from '../../state/api-description';

/** A piece of a type as it is written; one that is the name of a type leads to it. */
export interface Part {
  text: string;
  type?: string;
}

/** A field of a type. */
export interface Field {
  name: string;
  optional: boolean;
  parts: Part[];
  description: string;
}

/** A type, written as TypeScript has it. */
export function partsOf(schema: JsonSchema): Part[] {
  const { $ref, anyOf, items, prefixItems, properties, additionalProperties } = schema;
  if ($ref) {
    const name = $ref.slice($ref.lastIndexOf('/') + 1);
    return [{ text: name, type: name }];
  }
  if ('const' in schema) return [{ text: JSON.stringify(schema.const) }];
  if (schema.enum) return [{ text: schema.enum.map((value) => JSON.stringify(value)).join(' | ') }];
  if (anyOf) return joined(anyOf.map(partsOf), ' | ');
  if (prefixItems) return [{ text: '[' }, ...joined(prefixItems.map(partsOf), ', '), { text: ']' }];
  if (items) return listOf(items);
  if (properties) {
    const fields = fieldsOf(schema).map(({ name, optional, parts }) => [
      { text: `${name}${optional ? '?' : ''}: ` },
      ...parts,
    ]);
    return [{ text: '{ ' }, ...joined(fields, '; '), { text: ' }' }];
  }
  if (additionalProperties) return [{ text: '{ [name]: ' }, ...partsOf(additionalProperties), { text: ' }' }];
  return [{ text: schema.type ?? 'any' }];
}

/** The fields of an object; none of a type that is none. */
export function fieldsOf({ properties = {}, required = [] }: JsonSchema): Field[] {
  return Object.entries(properties).map(([name, schema]) => ({
    ...{ name, optional: !required.includes(name), parts: partsOf(schema), description: schema.description ?? '' },
  }));
}

function listOf(items: JsonSchema): Part[] {
  const parts = partsOf(items);
  const isChoice = items.anyOf !== undefined || (items.enum?.length ?? 0) > 1;
  return isChoice ? [{ text: '(' }, ...parts, { text: ')[]' }] : [...parts, { text: '[]' }];
}

function joined(lists: Part[][], separator: string): Part[] {
  return lists.flatMap((parts, i) => (i === 0 ? parts : [{ text: separator }, ...parts]));
}
