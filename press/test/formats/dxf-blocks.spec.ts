import { tool } from '../support/published';
import { DRAWING, dxfWriter, group, VIEW, X, Y } from '../support/true-size';

const written = dxfWriter();

/** What ezdxf finds of block references: their names with how they are placed, and all lines and texts, references opened. */
const BLOCKS_SCRIPT = `
import sys, json
from ezdxf import recover, bbox
doc, auditor = recover.readfile(sys.argv[1])
inserts = [e for e in doc.modelspace() if e.dxftype() == 'INSERT']
def opened(e):
    return [one for part in e.virtual_entities() for one in opened(part)] if e.dxftype() == 'INSERT' else [e]
shown = []
for e in doc.modelspace():
    for one in opened(e):
        box = bbox.extents([one], fast=False)
        shown.append([one.dxftype(), one.dxf.layer, *list(box.extmin)[:2], *list(box.extmax)[:2]])
print(json.dumps(dict(errors=len(auditor.errors), shown=shown, inserts=[
    [e.dxf.name, round(e.dxf.xscale, 6), round(e.dxf.yscale, 6), round(e.dxf.rotation, 6), *list(e.dxf.insert)[:2]] for e in inserts],
    texts=[e.dxf.text for b in doc.blocks if not b.is_any_layout for e in b if e.dxftype() == 'TEXT'])))
`;

interface FoundBlocks {
  errors: number;
  inserts: [name: string, across: number, up: number, turned: number, x: number, y: number][];
  /** Kind, layer, and the box around it. */
  shown: [string, string, number, number, number, number][];
  texts: string[];
}

function foundBlocks(path: string): FoundBlocks {
  return JSON.parse(tool('/usr/bin/python3', '-c', BLOCKS_SCRIPT, path)) as FoundBlocks;
}

/** The drawing with a door as a block, referred to with these groups each. */
function withDoors(...references: (string | number)[][]): string {
  const door = [
    group(0, 'SECTION', 2, 'BLOCKS', 0, 'BLOCK', 8, 0, 2, 'Door', 70, 0, 10, 100, 20, 50, 30, 0),
    group(0, 'LINE', 8, 'A-DOOR', 10, 100, 20, 50, 11, 100.9, 21, 50),
    group(0, 'ARC', 8, 'A-DOOR', 10, 100, 20, 50, 40, 0.9, 50, 0, 51, 90),
    group(0, 'TEXT', 8, 'A-DOOR', 10, 100.1, 20, 50.1, 40, 0.2, 1, 'D1'),
    group(0, 'LWPOLYLINE', 8, 'A-DOOR', 90, 2, 43, 0.05, 10, 100, 20, 50, 10, 100, 20, 50.9),
    group(0, 'ENDBLK', 0, 'ENDSEC'),
  ].join('');
  const inserts = references.map((own) => group(0, 'INSERT', 8, 'A-DOOR', 2, 'Door', ...own)).join('');
  return DRAWING.replace(group(0, 'SECTION', 2, 'ENTITIES'), `${door}${group(0, 'SECTION', 2, 'ENTITIES')}${inserts}`);
}

describe('block references of DXF at true size', () => {
  const [x, y] = [X + 2, Y + 2];
  const sorted = ({ shown }: FoundBlocks): FoundBlocks['shown'] =>
    [...shown].sort((a, b) =>
      a.slice(0, 2).join() < b.slice(0, 2).join() ? -1 : a[0] === b[0] ? a[2] - b[2] || a[3] - b[3] : 1,
    );

  it.each(['2013', 'R12'] as const)('are kept in release %s, and show what they show opened', async (release) => {
    const drawing = withDoors(
      [10, x, 20, y],
      [10, x + 3, 20, y, 50, 30],
      [10, x + 5, 20, y, 41, -1, 42, 1],
      [10, x + 6, 20, y + 2, 70, 2, 71, 2, 44, 1.5, 45, 1.2, 50, 15],
    );
    const options = { dxfSize: 'model', dxfUnit: 'm', ...(release !== '2013' && { dxfVersion: release }) } as const;
    const opened = foundBlocks(await written(options, { views: [VIEW] }, drawing));
    const kept = foundBlocks(await written({ ...options, dxfBlocks: 'kept' }, { views: [VIEW] }, drawing));
    expect([opened.errors, opened.inserts, kept.errors]).toEqual([0, [], 0]);
    const name = release === 'R12' ? 'DOOR' : 'Door';
    // Metres, from the base point of the block.
    expect(kept.inserts.slice(0, 3)).toEqual([
      [name, 1, 1, 0, expect.closeTo(x, 4), expect.closeTo(y, 4)],
      [name, 1, 1, 30, expect.closeTo(x + 3, 4), expect.closeTo(y, 4)],
      // Text in a mirrored reference is mirrored, so that it is the same block.
      [name, 1, -1, 180, expect.closeTo(x + 5, 4), expect.closeTo(y, 4)],
    ]);
    expect(kept.inserts.map(([one, across, , turned]) => [one, across, turned]).slice(3)).toEqual(
      Array(4).fill([name, 1, 15]),
    );
    expect(kept.texts).toEqual(['D1']);
    const [wanted, found] = [sorted(opened), sorted(kept)];
    expect(found.map((one) => one.slice(0, 2))).toEqual(wanted.map((one) => one.slice(0, 2)));
    // A hundredth of a millimetre on a drawing of metres, and the rounding of two pages.
    found.forEach(([kind, , ...box], i) => {
      // Of a text the box is an estimate by letters that are not there.
      if (kind !== 'TEXT') box.forEach((value, k) => expect(value).toBeCloseTo(wanted[i]!.slice(2)[k] as number, 4));
    });
  });

  it('share a block where they differ in size only, unless curves or widths of their own come out differently', async () => {
    const drawing = withDoors([10, x, 20, y], [10, x + 3, 20, y, 41, 2, 42, 2]);
    const { inserts } = foundBlocks(await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, drawing));
    expect(inserts.map(([name, across]) => [name, across])).toEqual([
      ['Door', 1],
      ['Door 2', 1],
    ]);
    const plain = drawing.replace(group(43, 0.05), '').replace(/^0\nARC\n[^]*?(?=^0\nTEXT)/m, '');
    const { inserts: shared } = foundBlocks(
      await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, plain),
    );
    expect(shared.map(([name, across]) => [name, across])).toEqual([
      ['Door', 1],
      ['Door', 2],
    ]);
  });

  it('are opened where the edge of a view cuts them, or they are stretched', async () => {
    const drawing = withDoors([10, X + 13.5, 20, y], [10, x, 20, y, 41, 2, 42, 1], [10, x + 3, 20, y]);
    const { inserts, errors } = foundBlocks(
      await written({ dxfSize: 'model', dxfBlocks: 'kept' }, { views: [VIEW] }, drawing),
    );
    expect([errors, inserts.map(([, , , , at]) => Math.round(at / 1000 - X))]).toEqual([0, [5]]);
  });

  it('are kept on the sheet as printed too', async () => {
    const path = await written({ dxfBlocks: 'kept' }, { views: [VIEW] }, withDoors([10, x, 20, y]));
    // 1:100, so that a metre is 10 mm; the window begins 1 m to the left of and below X and Y, at 20 mm.
    expect(foundBlocks(path).inserts).toEqual([['Door', 1, 1, 0, expect.closeTo(50, 2), expect.closeTo(50, 2)]]);
  });
});
