import { restartPause } from '../lib/pauses.mjs';

it('waits longer after each failure in a row, up to a limit', () => {
  const pauses = Array.from({ length: 12 }, (_, failures) => restartPause(failures));
  expect(pauses[0]).toBeLessThanOrEqual(500);
  for (let i = 1; i < pauses.length; i++) expect(pauses[i]).toBeGreaterThanOrEqual(pauses[i - 1]!);
  expect(Math.max(...pauses)).toBe(15_000);
});
