// Runs once before any tests: they need the built server, and must not depend on which typefaces the machine has.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { createRequire } from 'node:module';
import { ensureNodeBuild, ROOT } from './build-node.mjs';

const FONT_PACKAGES = /fonts|source-sans/;

export default async function setUp() {
  await ensureNodeBuild();
  process.env.FONTCONFIG_FILE = fontConfig();
}

/** A configuration by which poppler, librsvg and the like find the typefaces that ship with the press, and no others. */
function fontConfig() {
  const require = createRequire(join(ROOT, 'press', 'package.json'));
  const { dependencies } = JSON.parse(readFileSync(join(ROOT, 'press', 'package.json'), 'utf8'));
  const folders = Object.keys(dependencies)
    .filter((name) => FONT_PACKAGES.test(name))
    .map((name) => dirname(require.resolve(`${name}/package.json`)));
  const cache = join(ROOT, 'node_modules', '.cache', 'fonts');
  mkdirSync(cache, { recursive: true });
  const file = join(cache, 'fonts.conf');
  const lines = [...folders.map((folder) => `<dir>${folder}</dir>`), `<cachedir>${cache}</cachedir>`];
  writeFileSync(file, `<?xml version="1.0"?>\n<fontconfig>\n${lines.join('\n')}\n</fontconfig>\n`);
  return file;
}
