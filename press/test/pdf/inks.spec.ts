import { inkBySchedule, inkPage, luminance, PageBuilder, Path, writePart } from '@folvex/core';
import { pdfTools } from '../../src/index';
import { MM_PER_POINT } from '../support/published';

describe('inks in the content stream', () => {
  const WEIGHTS = [0.13, 0.18, 0.25, 0.35, 0.5, 0.7];
  const COLOURS = [0xff0000, 0x00ff00, 0x0000ff, 0x8c7853, 0xffff00];

  async function streamOf(
    ink: (page: ReturnType<PageBuilder['build']>) => ReturnType<PageBuilder['build']>,
  ): Promise<string> {
    const builder = new PageBuilder(100, 100);
    const path = new Path();
    [...WEIGHTS.map((weight) => [weight, 0x336699]), ...COLOURS.map((colour) => [0.25, colour])].forEach(
      ([weight, colour], i) => {
        path.clear();
        path.moveTo(10, 5 * i);
        path.lineTo(90, 5 * i);
        builder.stroke(path, builder.layer('p.dxf', `L${i}`), builder.pen(weight!, colour!));
      },
    );
    const tools = await pdfTools();
    const { content } = writePart(ink(builder.build()), tools.fonts, false, (bytes) => bytes);
    return Buffer.from(content).toString('latin1');
  }

  it('has the line widths of the schedule to 0.005 mm', async () => {
    const rules = WEIGHTS.map((_, i) => ({ layer: `L${i}`, weight: WEIGHTS.at(-1 - i)! }));
    const text = await streamOf((page) => inkBySchedule(page, { id: 's', name: 'S', rules }));
    const unit = Number(/^([\d.]+) 0 0/.exec(text)![1]);
    const widths = [...text.matchAll(/^(\d+) w$/gm)].map(([, width]) => Number(width) * unit * MM_PER_POINT);
    const wanted = [...WEIGHTS].reverse();
    wanted.forEach((width, i) => expect(Math.abs(widths[i]! - width)).toBeLessThan(0.005));
  });

  it('has greys of the luminance of their colours (ITU-R BT.709, IEC 61966-2-1)', async () => {
    const text = await streamOf((page) => inkPage(page, 'greys'));
    const greys = [...text.matchAll(/^([\d.]+) G$/gm)].map(([, grey]) => Number(grey)).slice(-COLOURS.length);
    const linear = (encoded: number): number =>
      encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4;
    COLOURS.forEach((colour, i) => {
      const part = (shift: number): number => linear(((colour >> shift) & 255) / 255);
      const wanted = 0.2126 * part(16) + 0.7152 * part(8) + 0.0722 * part(0);
      expect(linear(greys[i]!)).toBeCloseTo(wanted, 2);
      expect(luminance(colour)).toBeCloseTo(wanted, 6);
    });
  });
});
