import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** The code that makes each kind of thing that is kept (see `server/src/model/sources.ts`). */
const MAKERS = {
  sheet: 'press/src/make-sheet.ts',
  page: 'press/src/sheet/make-page.ts',
  changes: 'press/src/drawings/changes.ts',
  space: 'press/src/drawings/view.ts',
};
/** Their exact versions of packages count too: fonts and libraries. */
const MANIFESTS = ['core/package.json', 'press/package.json'];

/** A hash for each maker, of every source that it is built from. `outsidePackages` is the plugin that leaves packages out. */
export async function sourceHashes(root, outsidePackages) {
  const { metafile } = await build({
    absWorkingDir: root,
    entryPoints: Object.entries(MAKERS).map(([out, file]) => ({ in: join(root, file), out })),
    outdir: 'unwritten',
    write: false,
    bundle: true,
    metafile: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
    plugins: [outsidePackages],
  });
  const hashes = {};
  for (const kind of Object.keys(MAKERS)) {
    const hash = createHash('sha256');
    const { inputs } = metafile.outputs[`unwritten/${kind}.js`];
    for (const file of [...Object.keys(inputs).sort(), ...MANIFESTS]) {
      hash.update(`${file}\n`).update(readFileSync(join(root, file)));
    }
    hashes[kind] = hash.digest('hex').slice(0, 16);
  }
  return hashes;
}
