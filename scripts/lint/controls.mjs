import { readFileSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';

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
  tooltip: (name, attributes) => !name.startsWith('fx-') && /(^|\s)(\[title\]|title)=/.test(attributes),
};

/** Templates that still have native controls, and which; nothing else may be added. */
const EXCEPTIONS = {
  // The rule is written over its own coloured copy.
  'web/src/places/package/names/name-rule.html': ['text field'],
};

/** Kinds of native controls in a template, each once. */
export function nativeControls(template) {
  const tags = template.replace(/<!--.*?-->/gs, '').matchAll(/<([a-z][a-z0-9-]*)((?:"[^"]*"|'[^']*'|[^"'>])*)>/g);
  const found = [...tags].flatMap(([, name, attributes]) =>
    Object.keys(NATIVE).filter((kind) => NATIVE[kind](name, attributes)),
  );
  return [...new Set(found)];
}

/** What a template has that it must not have; `file` is relative to the project's folder. */
export function forbiddenControls(file, template) {
  return nativeControls(template).filter((kind) => !EXCEPTIONS[file]?.includes(kind));
}

/** ESLint rule: the templates of components have controls of Angular Material. */
export const controls = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const check = (node, file, template) => {
      for (const kind of forbiddenControls(relative(context.cwd, file).split(sep).join('/'), template)) {
        context.report({
          node,
          message: `A native ${kind} in a template; take the Material one (web/src/forms, scripts/lint/controls.mjs).`,
        });
      }
    };
    return {
      'Decorator Property[key.name="template"]': ({ value }) => {
        const text =
          value.type === 'TemplateLiteral' ? value.quasis.map(({ value: { raw } }) => raw).join('') : value.value;
        check(value, context.filename, String(text));
      },
      'Decorator Property[key.name="templateUrl"]': ({ value }) => {
        const file = join(dirname(context.filename), value.value);
        check(value, file, readFileSync(file, 'utf8'));
      },
    };
  },
};
