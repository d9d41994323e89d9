import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createPress, limitsFrom, sha256 } from '../src/index';
import { ownFolder } from './support/published';

const folder = ownFolder();
const THREAD = join(process.cwd(), 'dist', 'press-thread.mjs');

/** A drawing of so many lines, as a file to read. */
function drawingOf(lines: number) {
  const one = (i: number): string => `0\nLINE\n8\nA-${i % 50}\n10\n${i}\n20\n0\n11\n${i}\n21\n100\n`;
  const entities = Array.from({ length: lines }, (_, i) => one(i)).join('');
  const dxf = `0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
  const path = join(folder, `${lines}.dxf`);
  writeFileSync(path, dxf);
  return { name: `${lines} lines.dxf`, path, hash: sha256(dxf) };
}

it('the environment says how much a thread may use, or what is usual holds', () => {
  const usual = { memoryMb: 4096, milliseconds: 900_000 };
  expect(limitsFrom({})).toEqual(usual);
  expect(limitsFrom({ FOLVEX_THREAD_MB: 'much', FOLVEX_THREAD_MINUTES: '0' })).toEqual(usual);
  expect(limitsFrom({ FOLVEX_THREAD_MB: '512', FOLVEX_THREAD_MINUTES: '0.5' })).toEqual({
    ...{ memoryMb: 512, milliseconds: 30_000 },
  });
});

describe('a thread', () => {
  it('that needs more memory than it may ends with a sentence, and others go on', async () => {
    const press = createPress(THREAD, 1, { memoryMb: 48, milliseconds: 600_000 });
    try {
      const [large, small] = await Promise.all([press.inspect(drawingOf(400_000)), press.inspect(drawingOf(10))]);
      expect(large).toMatchObject({ ok: false, problem: { code: 'press.memory' } });
      expect(!large.ok && large.problem.sentence).toMatch(
        /^Reading 400000 lines\.dxf took more than the 48 MB of memory/,
      );
      expect(small.ok).toBe(true);
    } finally {
      await press.close();
    }
  });

  it('that takes longer than it may is stopped, also in the middle of its work', async () => {
    const press = createPress(THREAD, 1, { memoryMb: 2048, milliseconds: 1 });
    try {
      const stopped = await press.inspect(drawingOf(100_000));
      expect(stopped).toMatchObject({ ok: false, problem: { code: 'press.time' } });
      expect(!stopped.ok && stopped.problem.sentence).toContain('took longer than 1 ms and was stopped');
      // Tasks that have no outcome throw the same.
      const file = drawingOf(10);
      const frames = press.frames({ file: { id: 'd', ...file } } as unknown as Parameters<typeof press.frames>[0]);
      await expect(frames).rejects.toMatchObject({ problem: { code: 'press.time' } });
    } finally {
      await press.close();
    }
  });
});
