import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { circles, forbidden } from '../lint/arrows.mjs';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

describe('the arrows between rooms', () => {
  it.each([
    ['core/src/sheet/compose.ts', '../geometry/box'],
    ['core/src/sheet/compose.ts', '../problem'],
    ['core/src/job/read.ts', 'yup'],
    ['core/test/x.spec.ts', 'node:fs'],
    ['core/src/index.ts', './job/read'],
    ['server/src/main.ts', '@folvex/press'],
    ['server/src/main.ts', './http/app'],
    ['server/src/http/runs.ts', '../work/runs/start-run'],
    ['server/src/work/runs/start-run.ts', '../../data/runs'],
    ['server/src/work/runs/start-run.ts', '../../errors'],
    ['press/src/formats/index.ts', '../sheet/compose'],
    ['web/src/app/app.ts', '@folvex/contract'],
    ['web/src/app/places.ts', '../places/pens/place'],
    ['web/src/places/pens/pens-place.ts', '../../state/store'],
    ['web/src/places/gather/drawing/drawing-place.ts', '../new-sheet-panel'],
    ['cli/src/main.ts', '@folvex/core'],
  ])('let %s import %s', (file, source) => {
    expect(forbidden(file, source)).toBeUndefined();
  });

  it.each([
    ['web/src/places/pens/pens-place.ts', '../../state/api'],
    ['core/src/geometry/box.ts', '../sheet/compose'],
    ['core/src/problem.ts', './geometry/box'],
    ['core/src/read/dxf/dxf.ts', '../../pdf/document'],
    ['core/src/sheet/compose.ts', '@folvex/contract'],
    ['core/src/pdf/document.ts', 'node:zlib'],
    ['core/src/text/layout.ts', 'harfbuzzjs'],
    ['contract/src/payloads.ts', '@folvex/server'],
    ['contract/src/payloads.ts', '@folvex/press'],
    ['server/src/data/runs.ts', '../work/runs/start-run'],
    ['server/src/work/runs/start-run.ts', '../../http/answers'],
    ['server/src/data/runs.ts', '../main'],
    ['press/src/files/whole-file.ts', '../sheet/compose'],
    ['web/src/app/app.ts', '@folvex/server'],
    ['web/src/state/api.ts', '../places/pens/pens-place'],
    ['web/src/ui/notice.ts', '../app/app'],
    ['web/src/places/pens/pens-place.ts', '../settings/recipes'],
    ['cli/src/main.ts', '../../server/src/main'],
    ['demo/src/main.ts', '@folvex/press'],
    ['web/src/app/app.ts', '../../../server/src/main'],
  ])('keep %s from importing %s', (file, source) => {
    expect(forbidden(file, source)).toMatch(/must not/);
  });

  it.each([
    ['core/src/attic/box.ts', '../geometry/box'],
    ['core/src/geometry/box.ts', '../attic/box'],
    ['server/src/http/runs.ts', '../attic/runs'],
    ['web/src/attic/thing.ts', '../ui/notice'],
    ['server/src/attic.ts', './data/runs'],
  ])('refuse a room that nobody listed: %s imports %s', (file, source) => {
    expect(forbidden(file, source)).toMatch(/is not known; list it/);
  });
});

describe('circles of files', () => {
  it('are found, through types and folders too', () => {
    const files: Record<string, string> = {
      'a/one.ts': `import type { Two } from './two';`,
      'a/two.ts': `export * from '../b';`,
      'b/index.ts': `const lazy = import('../a/one');`,
      'b/free.ts': `import { x } from './index';`,
    };
    const found = circles(Object.keys(files), '/x', (file) => files[file]!);
    expect(found.map((circle) => circle.sort())).toEqual([['a/one.ts', 'a/two.ts', 'b/index.ts']]);
  });

  it('are nowhere in the project', () => {
    const listed = execFileSync('git', ['ls-files', '-co', '--exclude-standard', '*.ts'], {
      cwd: ROOT,
      encoding: 'utf8',
    });
    const files = listed.split('\n').filter((file) => /^\w+\/src\//.test(file));
    expect(files.length).toBeGreaterThan(300);
    expect(circles(files, ROOT, (file) => readFileSync(join(ROOT, file), 'utf8'))).toEqual([]);
  });
});
