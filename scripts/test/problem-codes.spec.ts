import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PROBLEM_CODES } from '../../core/src/problem-codes';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** The text of all sources but the catalogue itself. */
function sources(): string {
  const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts'], {
    cwd: ROOT,
    encoding: 'utf8',
  });
  return listed
    .split('\n')
    .filter((file) => /^(core|press|server|cli|web)\/src\//.test(file) && !file.endsWith('problem-codes.ts'))
    .map((file) => readFileSync(join(ROOT, file), 'utf8'))
    .join('\n');
}

describe('the catalogue of problem codes', () => {
  const catalogue = Object.keys(PROBLEM_CODES);

  const text = sources();

  it('has no code that the sources do not have', () => {
    // Some codes are put together: `sheet.` and the reason why something is not shown.
    const stands = (code: string): boolean =>
      text.includes(`'${code}'`) || (code.startsWith('sheet.') && text.includes(`'${code.slice('sheet.'.length)}'`));
    expect(catalogue.filter((code) => !stands(code))).toEqual([]);
  });

  it('is what docs/problems.md lists', () => {
    const page = readFileSync(join(ROOT, 'docs', 'problems.md'), 'utf8').replace(/ +/g, ' ');
    for (const [code, [, meaning]] of Object.entries(PROBLEM_CODES))
      expect(page).toContain(`| \`${code}\` | ${meaning} |`);
  });
});
