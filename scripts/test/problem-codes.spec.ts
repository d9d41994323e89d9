import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { FINDINGS } from '../../core/src/index';
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

/** Where problems are made: their code stands as `code`, or as the first text given to what makes one. */
const MAKING = [
  /\bcode: '([a-z]+\.[a-z-]+)'/g,
  /\b(?:refuse|refused|Refused|warn|warning|problem)\w*\(\s*(?:\w+, )?(?:\d+,\s*)?'([a-z]+\.[a-z-]+)'/g,
];

describe('the catalogue of problem codes', () => {
  const findings = new Set(FINDINGS.map(([code]) => code));
  const catalogue = Object.keys(PROBLEM_CODES);

  const text = sources();

  it('has every code that the sources have', () => {
    const used = MAKING.flatMap((form) => [...text.matchAll(form)].map(([, code]) => code!));
    expect(used.length).toBeGreaterThan(catalogue.length);
    expect([...new Set(used)].filter((code) => !(code in PROBLEM_CODES) && !findings.has(code))).toEqual([]);
  });

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
