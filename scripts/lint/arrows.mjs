import { dirname, relative, resolve, sep } from 'node:path';

/** Which workspace may import which, types included (docs/structure.md). */
const WORKSPACES = {
  core: [],
  contract: ['core'],
  press: ['core'],
  server: ['contract', 'core', 'press'],
  web: ['contract', 'core'],
  cli: ['core', 'press'],
  demo: ['core'],
  bench: ['core', 'press'],
};

/** Rooms of core along the flow of the work: each may import from those before it, none from those after. */
const FLOW = [
  'geometry',
  'measure',
  'paper',
  'text',
  'drawing',
  'read',
  'page',
  'pens',
  'naming',
  'sheet',
  'compare',
  'pdf',
  'paint',
  'package',
  'relink',
  'issues',
  'job',
];

/** The packages that `core` may use: checking, the reading of XML and of PDFs of others, the names of colours. */
const CORE_PACKAGES = ['yup', 'saxes', 'bidi-js', 'clipper-lib', 'papaparse', 'color-name', '@cantoo/pdf-lib'];

/** Why a file must not import something; undefined when it may. `file` is relative to the project's folder. */
export function forbidden(file, source) {
  const [workspace, , room] = file.split('/');
  if (!(workspace in WORKSPACES)) return undefined;
  if (source.startsWith('@folvex/')) {
    const wanted = source.split('/')[1];
    if (WORKSPACES[workspace].includes(wanted)) return undefined;
    return `${workspace} must not import ${wanted}`;
  }
  if (!source.startsWith('.')) {
    if (workspace !== 'core' || isTest(file) || CORE_PACKAGES.includes(source)) return undefined;
    return `core must not import ${source}: it has no Node built-ins, no framework and few packages`;
  }
  const target = relative('.', resolve(dirname(file), source)).split(sep);
  if (target[0] !== workspace) return isTest(file) ? undefined : `${workspace} must not reach into ${target[0]}`;
  if (workspace !== 'core' || isTest(file)) return undefined;
  const [from, to] = [FLOW.indexOf(room), FLOW.indexOf(target[2])];
  if (from < 0 || to < 0 || to <= from) return undefined;
  return `core/${room} must not import core/${target[2]}, which is downstream of it`;
}

function isTest(file) {
  return /\.spec\.ts$|(^|\/)test\//.test(file);
}

/** ESLint rule: imports follow the arrows. */
export const arrows = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const file = relative(context.cwd, context.filename).split(sep).join('/');
    const check = (node) => {
      const why = typeof node.source?.value === 'string' ? forbidden(file, node.source.value) : undefined;
      if (why) context.report({ node: node.source, message: `${why} (docs/structure.md).` });
    };
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression: check,
    };
  },
};
