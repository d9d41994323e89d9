import { colourFromIndex, COLOUR_FOREGROUND, readDxf, type Entity } from '../../../src/index';
import { read } from '../../support/dxf';
import { bytesAt, runScript, temporaryFolder } from '../../support/ezdxf';

interface Written {
  colours: [number, number, number][];
  files: { version: string; path: string; binary: string; types: Record<string, number> }[];
}

describe('files written by an independent library', () => {
  const written = JSON.parse(runScript('write_dxf.py', temporaryFolder())) as Written;

  it.each(written.files.map((file) => [file.version, file] as const))('reads %s', (_, { path, types }) => {
    const { drawing, warnings } = read(bytesAt(path));
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

  it.each(written.files.map((file) => [file.version, file] as const))(
    'reads the same of %s in binary',
    (_, { path, binary }) => {
      const [text, packed] = [path, binary].map((file) => read(bytesAt(file)));
      expect(packed!.warnings).toEqual([]);
      expect(packed!.drawing.layers).toEqual(text!.drawing.layers);
      expect(packed!.drawing.spaces.map(({ entities }) => entities)).toEqual(
        text!.drawing.spaces.map(({ entities }) => entities),
      );
    },
  );

  it('reads a binary file that breaks off, up to there', () => {
    const bytes = bytesAt(written.files.at(-1)!.binary);
    for (let end = 22; end < bytes.length; end += 977) {
      const result = readDxf(bytes.subarray(0, end), 'cut.dxf');
      if (result.ok) expect(result.warnings.map(({ code }) => code)).toContain('dxf.truncated');
      else expect(['dxf.not-dxf', 'dxf.empty', 'dxf.no-sections']).toContain(result.problem.code);
    }
  });

  it('takes the unit from the header from 2000 on', () => {
    const { drawing } = read(bytesAt(written.files.find((f) => f.version === 'R2010')!.path));
    expect([drawing.unit, drawing.format]).toEqual(['m', 'DXF 2010']);
  });

  // ezdxf holds the widely copied table of DXF colour indices. It agrees with the rule within rounding but for 21 of the
  // dark, half saturated ones, where 38 stands as 88 and 76 as 126: brighter than the colours that they darken.
  it('knows the colours of the 255 indices', () => {
    const parts = (colour: number): number[] => [colour >> 16, (colour >> 8) & 255, colour & 255];
    const off = written.colours.flatMap((printed, i) => {
      const colour = colourFromIndex(i + 1);
      if (i + 1 === 7) return colour === COLOUR_FOREGROUND ? [] : [7];
      return parts(colour).some((part, k) => Math.abs(part - printed[k]!) > 2) ? [i + 1] : [];
    });
    expect(off).toHaveLength(21);
    for (const index of off) {
      expect(index).toBeGreaterThan(100);
      expect([7, 9]).toContain(index % 10);
      expect(written.colours[index - 1]!.some((part) => part === 88 || part === 126)).toBe(true);
    }
  });
});
