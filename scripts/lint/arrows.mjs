import { dirname, relative, resolve, sep } from 'node:path';

/**
 * Which workspace may import which, types included, and its rooms in the direction of the arrows: each room may import
 * from those before it, none from those after (docs/structure.md). `ground`: files at its root that any room may import;
 * `top`: files at its root that may import all. A room or a root file that is not listed is refused.
 */
const WORKSPACES = {
  core: {
    uses: [],
    ground: ['join-bytes', 'problem', 'problem-codes', 'same', 'shapes', 'shipped'],
    rooms: [
      ...[
        'geometry',
        'measure',
        'paper',
        'text',
        'drawing',
        'read',
        'page',
        'pens',
        'settings',
        'recipe',
        'naming',
        'inbox',
        'sheet',
        'compare',
      ],
      ...['pdf', 'paint', 'plot', 'package', 'relink', 'issues', 'job'],
    ],
    top: ['index', 'foreign'],
  },
  contract: {
    uses: ['core'],
    ground: [
      'arrival-payloads',
      'webhook-payloads',
      'delivery-payloads',
      'drawing-payloads',
      'health-payloads',
      'limited-text',
      'payloads',
      'routes',
      'transfer-payloads',
    ],
    rooms: [],
    top: [
      'index',
      'schemas',
      'access',
      'access-schemas',
      'operations',
      'run-settled',
      'package-change',
      'settings-change',
    ],
  },
  press: {
    uses: ['core'],
    ground: ['today'],
    rooms: ['files', 'typefaces', 'pdf', 'pictures', 'drawings', 'sheet', 'formats', 'plot', 'destinations'],
    top: [...['index', 'limits', 'make-sheet', 'thread'], ...['press', 'pool', 'host', 'host-messages', 'hosted']],
  },
  server: {
    uses: ['contract', 'core', 'press'],
    ground: ['errors'],
    rooms: ['model', 'files', 'data', 'work', 'http'],
    top: ['config', 'main', 'maintain-main', 'worker-main'],
  },
  web: {
    uses: ['contract', 'core'],
    ground: [],
    rooms: ['styles', 'engine', 'state', 'ui', 'forms', 'deliveries', 'places', 'app'],
    top: ['main'],
    /** Rooms whose folders do not import each other. */
    apart: ['places'],
  },
  cli: {
    uses: ['contract', 'core', 'press'],
    ground: ['console', 'work-folder'],
    rooms: [],
    top: [
      'inspect-file',
      'job',
      'main',
      'publish',
      'publish-files',
      'send',
      'send-files',
      'servers-file',
      'watch',
      'relink-folder',
      'remote',
      'remote-project',
      'sheet-task',
      'test-sheet',
      'typefaces',
    ],
  },
  demo: {
    uses: ['core'],
    ground: [],
    rooms: [],
    top: [
      ...['building', 'details', 'dxf-tables', 'dxf-writer', 'elevations', 'files', 'furniture', 'index', 'main'],
      ...['harbour-mark', 'plans', 'sheets', 'site', 'symbols'],
    ],
  },
  'stand-ins': {
    uses: ['core'],
    ground: ['html'],
    rooms: ['transfer'],
    top: ['index', 'main', 'plot-queue', 'plotter', 'plotter-answers', 'plotter-page', 'mailbox'],
  },
  bench: { uses: ['core', 'press'], anywhere: true },
};

/** The packages that `core` may use: checking, the reading of XML and of PDFs of others, names of colours, triangles, times. */
const CORE_PACKAGES = [
  'yup',
  'saxes',
  'bidi-js',
  'clipper-lib',
  'earcut',
  'papaparse',
  'color-name',
  'croner',
  '@cantoo/pdf-lib',
];

/** Why a file must not import something; undefined when it may. `file` is relative to the project's folder. */
export function forbidden(file, source) {
  const [workspace] = file.split('/');
  const rules = WORKSPACES[workspace];
  if (!rules) return undefined;
  if (source.startsWith('@folvex/')) {
    const wanted = source.split('/')[1];
    return rules.uses.includes(wanted) ? undefined : `${workspace} must not import ${wanted}`;
  }
  if (!source.startsWith('.')) {
    if (workspace !== 'core' || isTest(file) || CORE_PACKAGES.includes(source)) return undefined;
    return `core must not import ${source}: it has no Node built-ins, no framework and few packages`;
  }
  const target = relative('.', resolve(dirname(file), source)).split(sep);
  if (target[0] !== workspace) return isTest(file) ? undefined : `${workspace} must not reach into ${target[0]}`;
  if (isTest(file) || rules.anywhere || file.split('/')[1] !== 'src') return undefined;
  if (target.join('/') === 'web/src/state/api' && !file.startsWith('web/src/state/')) {
    return 'components must not talk to the server: they select, dispatch and show; effects in web/state ask';
  }
  return betweenRooms(workspace, rules, placeOf(file.split('/'), rules.rooms), placeOf(target, rules.rooms));
}

/** Where a file stands: in a room, or at the root of its workspace. */
function placeOf([, , first, ...rest], rooms) {
  if (rest.length > 0 || rooms.includes(first)) return { room: first, folder: rest[0] };
  return { root: first.replace(/\.[a-z.]+$/, '') };
}

function betweenRooms(workspace, { ground, rooms, top, apart = [] }, from, to) {
  for (const place of [from, to]) {
    if (place.root !== undefined && ![...ground, ...top].includes(place.root)) {
      return `${workspace}/src/${place.root} is not known; list it in scripts/lint/arrows.mjs`;
    }
    if (place.room !== undefined && !rooms.includes(place.room)) {
      return `the room ${workspace}/${place.room} is not known; list it in scripts/lint/arrows.mjs`;
    }
  }
  if (from.root !== undefined) {
    const low = ground.includes(from.root);
    return low && (to.room !== undefined || top.includes(to.root))
      ? `${workspace}/src/${from.root} is on the ground floor and must not import from above it`
      : undefined;
  }
  if (to.root !== undefined) {
    return ground.includes(to.root)
      ? undefined
      : `${workspace}/${from.room} must not import ${to.root}, which is on top`;
  }
  if (from.room === to.room) {
    return apart.includes(from.room) && from.folder !== to.folder
      ? `${workspace}/${from.room}/${from.folder} must not import from ${to.folder}, another place`
      : undefined;
  }
  if (rooms.indexOf(to.room) < rooms.indexOf(from.room)) return undefined;
  return `${workspace}/${from.room} must not import ${workspace}/${to.room}, which is downstream of it`;
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
      TSImportType: check,
    };
  },
};

const IMPORT = /(?:\bfrom|\bimport)\s*\(?\s*'(\.[^']+)'/g;

/**
 * Circles among files that import each other, types included: each a list of files, in no order. `files` are relative to
 * `root`; `read` gives a file's text.
 */
export function circles(files, root, read) {
  const known = new Set(files);
  const importsOf = (file) =>
    [...read(file).matchAll(IMPORT)].flatMap(([, source]) => {
      const path = relative(root, resolve(root, dirname(file), source))
        .split(sep)
        .join('/');
      return [`${path}.ts`, `${path}/index.ts`].filter((one) => known.has(one));
    });
  return stronglyConnected(files, importsOf).filter((group) => group.length > 1);
}

/** Groups of nodes that reach each other (Tarjan 1972). */
function stronglyConnected(nodes, next) {
  const [index, low, stack, onStack, groups] = [new Map(), new Map(), [], new Set(), []];
  const visit = (node) => {
    index.set(node, index.size);
    low.set(node, index.get(node));
    stack.push(node);
    onStack.add(node);
    for (const other of next(node)) {
      if (!index.has(other)) {
        visit(other);
        low.set(node, Math.min(low.get(node), low.get(other)));
      } else if (onStack.has(other)) low.set(node, Math.min(low.get(node), index.get(other)));
    }
    if (low.get(node) !== index.get(node)) return;
    const group = stack.splice(stack.indexOf(node));
    for (const member of group) onStack.delete(member);
    groups.push(group);
  };
  for (const node of nodes) if (!index.has(node)) visit(node);
  return groups;
}
