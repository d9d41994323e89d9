import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** Native controls that a template must not have, since Angular Material has its own; by what the person sees. */
const NATIVE = {
  select: (name) => name === 'select',
  details: (name) => name === 'details',
  datalist: (name) => name === 'datalist',
  table: (name, attributes) => name === 'table' && !/\bmat-table\b/.test(attributes),
  checkbox: (name, attributes) => name === 'input' && /type="(checkbox|radio)"/.test(attributes),
  'date or range': (name, attributes) => name === 'input' && /type="(date|time|month|range)"/.test(attributes),
  'text field': (name, attributes) =>
    (name === 'input' &&
      !/\bmatInput\b|\bmatSliderThumb\b|type="(file|color|checkbox|radio|date|range)"/.test(attributes)) ||
    (name === 'textarea' && !/\bmatInput\b/.test(attributes)),
  button: (name, attributes) => name === 'button' && !/(^|\s)(mat[A-Z]|mat-)/.test(attributes),
  tooltip: (name, attributes) => !name.startsWith('fx-') && /(^|\s)(\[title\]|title)=/.test(attributes),
};

/** Kinds of native controls in a template, each once. */
export function nativeControls(template) {
  const tags = template.replace(/<!--.*?-->/gs, '').matchAll(/<([a-z][a-z0-9-]*)((?:"[^"]*"|'[^']*'|[^"'>])*)>/g);
  const found = [...tags].flatMap(([, name, attributes]) =>
    Object.keys(NATIVE).filter((kind) => NATIVE[kind](name, attributes)),
  );
  return [...new Set(found)];
}

/** ESLint rule: the templates of components have controls of Angular Material. */
export const controls = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const check = (node, template) => {
      for (const kind of nativeControls(template)) {
        context.report({
          node,
          message: `A native ${kind} in a template; use the Material one (web/src/forms, scripts/lint/controls.mjs).`,
        });
      }
    };
    return {
      'Decorator Property[key.name="template"]': ({ value }) => {
        const text =
          value.type === 'TemplateLiteral' ? value.quasis.map(({ value: { raw } }) => raw).join('') : value.value;
        check(value, String(text));
      },
      'Decorator Property[key.name="templateUrl"]': ({ value }) => {
        check(value, readFileSync(join(dirname(context.filename), value.value), 'utf8'));
      },
    };
  },
};
