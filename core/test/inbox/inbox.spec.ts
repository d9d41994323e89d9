import { isIgnored, takesAtOnce } from '../../src/inbox/inbox';

describe('an inbox', () => {
  it('asks unless it may take what arrives', () => {
    const all = [undefined, 'versions', 'everything'] as const;
    expect(all.map((takes) => takesAtOnce({ takes }, true))).toEqual([false, true, true]);
    expect(all.map((takes) => takesAtOnce({ takes }, false))).toEqual([false, false, true]);
  });

  it.each(['in/.folvex-1.part', '~$plan.dxf', 'plan.dxf.filepart', 'x/Thumbs.db', 'plan.bak', 'plan.dxf~'])(
    'ignores %s',
    (path) => expect(isIgnored(path)).toBe(true),
  );

  it.each(['plan.dxf', 'v1.2/plan.dxf', 'partial.dxf', 'letter.docx'])('takes note of %s', (path) =>
    expect(isIgnored(path)).toBe(false),
  );
});
