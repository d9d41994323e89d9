import { build, context } from 'esbuild';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import { sourceHashes } from './lib/source-hashes.mjs';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
export const DIST = join(ROOT, 'dist');

const ENTRIES = {
  folvex: 'cli/src/main.ts',
  'press-thread': 'press/src/thread.ts',
  'press-host': 'press/src/host.ts',
  server: 'server/src/main.ts',
  worker: 'server/src/worker-main.ts',
  maintain: 'server/src/maintain-main.ts',
  heartbeat: 'server/src/work/queue/heartbeat-thread.ts',
  'draw-demo': 'demo/src/main.ts',
  'stand-ins': 'stand-ins/src/main.ts',
  bench: 'bench/main.ts',
};

const OUTSIDE_PACKAGES = { name: 'packages-stay-outside', setup: leavePackagesOutside };

/** Bundles what runs on Node into dist/: own code only, packages stay where npm put them. */
export async function buildNode() {
  await build(await options());
}

/** Builds now and after every change of a source; `onBuilt` is called after each build that succeeds. */
export async function watchNode(onBuilt) {
  const tell = {
    name: 'tell',
    setup: (builder) => builder.onEnd(({ errors }) => (errors.length === 0 ? onBuilt() : undefined)),
  };
  const { plugins, ...rest } = await options();
  const watching = await context({ ...rest, plugins: [...plugins, tell] });
  await watching.watch();
  return watching;
}

async function options() {
  const { version } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  const hashes = await sourceHashes(ROOT, OUTSIDE_PACKAGES);
  return {
    absWorkingDir: ROOT,
    entryPoints: Object.entries(ENTRIES)
      .filter(([, file]) => existsSync(join(ROOT, file)))
      .map(([out, file]) => ({ in: join(ROOT, file), out })),
    outdir: DIST,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    chunkNames: 'chunks/[name]-[hash]',
    platform: 'node',
    target: 'node20',
    format: 'esm',
    sourcemap: true,
    logLevel: 'warning',
    define: { FOLVEX_SOURCE_HASHES: JSON.stringify(hashes), FOLVEX_VERSION: JSON.stringify(version) },
    plugins: [OUTSIDE_PACKAGES],
  };
}

/** Builds when a source is newer than the build, or there is none. */
export async function ensureNodeBuild() {
  const built = join(DIST, 'folvex.mjs');
  const sources = ['core', 'contract', 'press', 'server', 'cli', 'demo', 'stand-ins'].map((room) =>
    join(ROOT, room, 'src'),
  );
  if (!existsSync(built) || newest(sources) > statSync(built).mtimeMs) await buildNode();
}

/** Time of the latest change below some folders, ms. */
export function newest(folders) {
  let latest = 0;
  for (const folder of folders) {
    if (!existsSync(folder)) continue;
    for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
      if (entry.isFile()) latest = Math.max(latest, statSync(join(entry.parentPath, entry.name)).mtimeMs);
    }
  }
  return latest;
}

function leavePackagesOutside(builder) {
  builder.onResolve({ filter: /^[^./]/ }, ({ path, kind, importer }) => {
    if (kind === 'entry-point' || path.startsWith('@folvex/')) return undefined;
    const [workspace] = relative(ROOT, importer).split(sep);
    const name = path.split('/', path.startsWith('@') ? 2 : 1).join('/');
    // What is built finds packages from dist/, so only those at the root.
    if (existsSync(join(ROOT, workspace, 'node_modules', name, 'package.json')))
      return {
        errors: [{ text: `${workspace} has a ${name} of its own; list that version in the root's package.json` }],
      };
    return { path, external: true };
  });
}
