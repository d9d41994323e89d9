import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ICONS } from '../../src/ui/icons';

const SOURCES = join(__dirname, '../../src');
const sources = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' })
  .filter((path) => /\.(ts|html)$/.test(path) && !path.endsWith('icons.ts'))
  .map((path) => ({ path, text: readFileSync(join(SOURCES, path), 'utf8') }));

describe('icons', () => {
  it('of templates are all registered', () => {
    const unknown = sources.flatMap(({ path, text }) =>
      [...text.matchAll(/\bsvgIcon="(\w+)"/g)].flatMap(([, name]) => (name! in ICONS ? [] : `${path}: ${name}`)),
    );
    expect(unknown).toEqual([]);
  });

  it('that are registered are all used', () => {
    const all = sources.map(({ text }) => text).join('\n');
    const unused = Object.keys(ICONS).filter((name) => !new RegExp(`['"]${name}['"]`).test(all));
    expect(unused).toEqual([]);
  });

  it('are drawn in one path each, without a colour of their own', () => {
    for (const svg of Object.values(ICONS)) expect(svg).toMatch(/^<svg [^>]*><path d="[^"]+"\/><\/svg>$/);
  });
});
