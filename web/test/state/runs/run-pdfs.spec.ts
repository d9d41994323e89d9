import type { RunInfo } from '@folvex/contract';
import { pdfsOf } from '../../../src/state/runs/run-pdfs';

const file = (format: 'dxf' | null) => ({ path: `a.${format ?? 'pdf'}`, format });
const run = (...formats: ('dxf' | null)[]): RunInfo => ({ id: 'r', files: formats.map(file) }) as unknown as RunInfo;

it('leaves PDFs only, and is the same object for the same run', () => {
  const mixed = run(null, 'dxf');
  expect(pdfsOf(mixed).files.map(({ path }) => path)).toEqual(['a.pdf']);
  expect(pdfsOf(mixed)).toBe(pdfsOf(mixed));
  const plain = run(null, null);
  expect(pdfsOf(plain)).toBe(plain);
});
