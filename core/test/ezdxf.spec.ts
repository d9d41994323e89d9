import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { colourFromIndex, COLOUR_FOREGROUND, type Entity } from '../src/index';
import { read } from './dxf';

interface Written {
  colours: [number, number, number][];
  files: { version: string; path: string; types: Record<string, number> }[];
}

/** Against ezdxf, a DXF library from Debian's packages that shares nothing with this project. */
describe('files written by an independent library', () => {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-ezdxf-'));
  const script = fileURLToPath(new URL('./write_dxf.py', import.meta.url));
  const written = JSON.parse(execFileSync('/usr/bin/python3', [script, folder], { encoding: 'utf8' })) as Written;
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it.each(written.files.map((file) => [file.version, file] as const))('reads %s', (_, { path, types }) => {
    const { drawing, warnings } = read(new Uint8Array(readFileSync(path)));
    const { entities } = drawing.spaces[0]!;
    expect(warnings).toEqual([]);
    expect(entities).toHaveLength(Object.values(types).reduce((sum, count) => sum + count, 0));
    const kinds = (kind: Entity['kind']): Entity[] => entities.filter((entity) => entity.kind === kind);
    expect(kinds('line')[0]).toMatchObject({ x0: 0, x1: 12.345 });
    expect(drawing.layers[kinds('line')[0]!.style.layer]!.name).toBe('A-WALL');
    expect(kinds('arc').map((arc) => arc.kind === 'arc' && arc.full)).toEqual([true, false]);
    expect(kinds('insert').at(-1)).toMatchObject({ block: 'door', x: 7, y: 8, scaleX: 2, rotation: Math.PI / 2 });
    expect(drawing.blocks.get('door')!.entities).toHaveLength(1);
    const texts = kinds('text').flatMap((text) => (text.kind === 'text' ? text.lines : []));
    expect(texts).toContain('Café Größe');
    if (types['MTEXT']) expect(texts).toEqual(expect.arrayContaining(['first', 'second']));
    if (types['HATCH']) expect(kinds('fill')).toHaveLength(1);
  });

  it('takes the unit from the header from 2000 on', () => {
    const { drawing } = read(new Uint8Array(readFileSync(written.files.find((f) => f.version === 'R2010')!.path)));
    expect([drawing.unit, drawing.format]).toEqual(['m', 'DXF 2010']);
  });

  // ezdxf prints the published table of DXF colour indices; entries differ from the rule by rounding, and
  // some of the darkest by a misprint that is copied everywhere: an 88, brighter than the colour they darken.
  it('knows the colours of the 255 indices', () => {
    written.colours.forEach((printed, i) => {
      if ((i + 1) % 10 >= 8 && printed.includes(88)) return;
      const [r, g, b] = printed;
      const colour = colourFromIndex(i + 1);
      if (i + 1 === 7) return expect(colour).toBe(COLOUR_FOREGROUND);
      const difference = Math.max(
        Math.abs((colour >> 16) - r),
        Math.abs(((colour >> 8) & 255) - g),
        Math.abs((colour & 255) - b),
      );
      if (difference > 2) throw new Error(`index ${i + 1}: ${colour.toString(16)} is not ${[r, g, b]}`);
    });
  });
});
