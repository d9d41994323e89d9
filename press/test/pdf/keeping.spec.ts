import { readFileSync } from 'node:fs';
import { tool } from '../support/published';
import { sheet, written } from '../support/written';

/**
 * ISO 19005-2 (from memory), level B: what can be tested here. Not tested: that every colour, font and picture is used
 * as its own specification asks, which takes a validator.
 */
describe('a file for keeping, PDF/A-2b', () => {
  type Objects = Record<
    string,
    { value?: Record<string, unknown>; stream?: { dict: Record<string, unknown>; data?: string } }
  >;

  async function kept(): Promise<{ path: string; objects: Objects; trailer: Record<string, unknown> }> {
    const sheets = [
      { sheet: sheet('a', 'A-101'), texts: ['Café Łódź, see A-102', 'https://example.org'] },
      { sheet: sheet('b', 'A-102'), texts: ['Hall'] },
    ];
    const [path] = await written({
      sheets,
      files: [{ path: 'kept.pdf', sheets: ['a', 'b'] }],
      recipe: { version: 'A-2b' },
    });
    const told = JSON.parse(
      tool('qpdf', '--json', '--json-stream-data=inline', '--decode-level=generalized', path!),
    ) as { qpdf: [unknown, Objects] };
    const objects = told.qpdf[1];
    return { path: path!, objects, trailer: objects['trailer']!.value! };
  }

  it('6.1: has a header with a binary comment, an id, no encryption', async () => {
    const { path, trailer } = await kept();
    const start = readFileSync(path).subarray(0, 16);
    expect(start.subarray(0, 8).toString('latin1')).toBe('%PDF-1.7');
    expect([...start.subarray(10, 14)].every((byte) => byte > 127)).toBe(true);
    expect(trailer).toHaveProperty('/ID');
    expect(trailer).not.toHaveProperty('/Encrypt');
    expect(tool('qpdf', '--check', path)).toContain('No syntax or stream encoding errors');
  });

  it('6.2: states sRGB by a profile that reads as one', async () => {
    const { objects } = await kept();
    const catalog = Object.values(objects).find(({ value }) => value?.['/Type'] === '/Catalog')!.value!;
    const [intent] = catalog['/OutputIntents'] as Record<string, string>[];
    expect(intent).toMatchObject({ '/S': '/GTS_PDFA1' });
    const { stream } = objects[`obj:${intent!['/DestOutputProfile']}`]!;
    const profile = Buffer.from(stream!.data!, 'base64');
    expect(stream!.dict['/N']).toBe(3);
    expect([profile.readUInt32BE(0), profile.toString('latin1', 12, 24), profile.toString('latin1', 36, 40)]).toEqual([
      profile.length,
      'mntrRGB XYZ ',
      'acsp',
    ]);
    // Its primaries add up to the white of D50, as those of a matrix profile must (ICC.1).
    const tags = new Map(
      Array.from({ length: profile.readUInt32BE(128) }, (_, i) => [
        profile.toString('latin1', 132 + 12 * i, 136 + 12 * i),
        profile.readUInt32BE(136 + 12 * i),
      ]),
    );
    const part = (tag: string, i: number): number => profile.readInt32BE(tags.get(tag)! + 8 + 4 * i) / 65_536;
    [0.9642, 1, 0.8249].forEach((white, i) => {
      expect(part('rXYZ', i) + part('gXYZ', i) + part('bXYZ', i)).toBeCloseTo(white, 3);
    });
  });

  it('6.2.11: embeds every font, with widths and Unicode', async () => {
    const { path } = await kept();
    for (const font of tool('pdffonts', path).trim().split('\n').slice(2)) expect(font).toMatch(/yes yes yes/);
  });

  it('6.3 and 6.5: has annotations that print, and only actions that are allowed', async () => {
    const { objects } = await kept();
    const annotations = Object.values(objects).filter(({ value }) => value?.['/Subtype'] === '/Link');
    expect(annotations).toHaveLength(2);
    for (const { value } of annotations) {
      expect(value!['/F']).toBe(4);
      const action = value!['/A'] as Record<string, string> | undefined;
      if (action) expect(action['/S']).toBe('/URI');
    }
    expect(JSON.stringify(objects)).not.toMatch(/\/(JavaScript|Launch|AA|EmbeddedFiles)"/);
  });

  it('6.6: says part and conformance in its metadata, which agree with its information', async () => {
    const { objects, path } = await kept();
    const metadata = Object.values(objects).find(({ stream }) => stream?.dict['/Type'] === '/Metadata')!.stream!;
    expect(metadata.dict).not.toHaveProperty('/Filter');
    const xmp = Buffer.from(metadata.data!, 'base64').toString('utf8');
    expect(xmp).toContain('<pdfaid:part>2</pdfaid:part>');
    expect(xmp).toContain('<pdfaid:conformance>B</pdfaid:conformance>');
    const title = /Title:\s+(.*)/.exec(tool('pdfinfo', path))![1]!;
    expect(xmp).toContain(`>${title}<`);
  });

  it('6.9: has layers whose configuration has a name, lists all, and switches none by itself', async () => {
    const { objects } = await kept();
    const catalog = Object.values(objects).find(({ value }) => value?.['/Type'] === '/Catalog')!.value!;
    const properties = catalog['/OCProperties'] as { '/OCGs': string[]; '/D': Record<string, unknown> };
    expect(properties['/D']).toHaveProperty('/Name');
    expect(properties['/D']).not.toHaveProperty('/AS');
    const order = JSON.stringify(properties['/D']['/Order']);
    for (const group of properties['/OCGs']) expect(order).toContain(group);
  });
});
