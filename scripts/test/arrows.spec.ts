import { forbidden } from '../lint/arrows.mjs';

describe('the arrows between rooms', () => {
  it.each([
    ['core/src/sheet/compose.ts', '../geometry/box'],
    ['core/src/job/read.ts', 'yup'],
    ['core/test/x.spec.ts', 'node:fs'],
    ['server/src/main.ts', '@folvex/press'],
    ['web/src/app/app.ts', '@folvex/contract'],
    ['cli/src/main.ts', '@folvex/core'],
  ])('let %s import %s', (file, source) => {
    expect(forbidden(file, source)).toBeUndefined();
  });

  it.each([
    ['core/src/geometry/box.ts', '../sheet/compose'],
    ['core/src/read/dxf/dxf.ts', '../../pdf/document'],
    ['core/src/sheet/compose.ts', '@folvex/contract'],
    ['core/src/pdf/document.ts', 'node:zlib'],
    ['core/src/text/layout.ts', 'harfbuzzjs'],
    ['contract/src/payloads.ts', '@folvex/server'],
    ['contract/src/payloads.ts', '@folvex/press'],
    ['web/src/app/app.ts', '@folvex/server'],
    ['cli/src/main.ts', '@folvex/contract'],
    ['demo/src/main.ts', '@folvex/press'],
    ['web/src/app/app.ts', '../../../server/src/main'],
  ])('keep %s from importing %s', (file, source) => {
    expect(forbidden(file, source)).toMatch(/must not/);
  });
});
