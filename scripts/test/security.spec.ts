import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

it('every test that docs/security.md names is there', () => {
  const text = readFileSync(join(process.cwd(), 'docs', 'security.md'), 'utf8');
  const named = [...text.matchAll(/`([\w/-]+\.spec\.ts)`/g)].map(([, file]) => file!);
  expect(named.length).toBeGreaterThan(20);
  expect(named.filter((file) => !existsSync(join(process.cwd(), file)))).toEqual([]);
});
