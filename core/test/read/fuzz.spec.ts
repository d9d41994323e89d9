import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { composeSheet, ProblemError, readDxf, type Sheet } from '../../src/index';
import { FONTS } from '../support/fonts';
import { mutated } from '../support/fuzz';
import { runScript, temporaryFolder } from '../support/ezdxf';

const FILES = Number(process.env['FOLVEX_FUZZ'] ?? 2000);
const PROJECT = { number: '', name: '', client: '', fields: {} };

function sheet(more: object): Sheet {
  const view = {
    id: 'v',
    drawing: 'd',
    space: 'model',
    window: 'extents',
    scale: 'fit',
    at: 'centre',
    layersOff: [],
    label: '',
  };
  return {
    id: 's',
    number: 'S',
    title: '',
    group: '',
    paper: { name: 'A1', orientation: 'landscape' },
    frame: 'none',
    titleBlock: undefined,
    revision: undefined,
    views: [view],
    ...more,
  } as Sheet;
}

/** Damaged files must end in a refusal or an opening with warnings; composing what was read, in a Page or a problem. */
describe('damaged drawings', () => {
  const folder = temporaryFolder();
  runScript('write_layouts.py', join(folder, 'layouts.dxf'));
  runScript('write_dxf.py', folder);
  runScript('write_random.py', folder, '3', '2');
  runScript('write_projections.py', join(folder, 'aside.dxf'), '1', '-1', '1');
  runScript('write_walls.py', join(folder, 'walls.dxf'));
  runScript('write_leaders.py', join(folder, 'leaders.dxf'));
  runScript('write_dimensions.py', join(folder, 'dimensions.dxf'));
  const drawn = ['aside', 'walls', 'leaders', 'dimensions'].map((name) => `${name}.dxf`);
  const sources = ['layouts.dxf', 'R12.dxf', 'R2010.dxf', 'random-0.dxf', 'random-1.dxf', ...drawn].map((name) => {
    const text = readFileSync(join(folder, name), 'utf8');
    // The tables that such a library writes are long and much the same: the drawing itself is what is to be damaged.
    return text.slice(Math.max(0, text.indexOf('BLOCK_RECORD') - 200));
  });
  const head = '0\nSECTION\n2\nTABLES\n0\nTABLE\n2\n';

  it(`neither crash nor hang: ${FILES} of them`, () => {
    let [opened, refused] = [0, 0];
    for (let seed = 0; seed < FILES; seed++) {
      const result = readDxf(mutated(head + sources[seed % sources.length]!, seed), 'damaged.dxf');
      if (!result.ok) {
        refused++;
        expect(result.problem.sentence).toMatch(/\.$/);
        continue;
      }
      opened++;
      const { drawing } = result;
      const layout = drawing.spaces.find(({ kind }) => kind === 'layout');
      const sheets = [sheet({}), ...(layout ? [sheet({ from: { drawing: 'd', layout: layout.name } })] : [])];
      for (const one of sheets) {
        try {
          composeSheet({ project: PROJECT, sheet: one, fonts: FONTS, source: () => ({ drawing, unit: 'mm' }) });
        } catch (error) {
          if (!(error instanceof ProblemError)) throw new Error(`seed ${seed}: ${(error as Error).stack}`);
        }
      }
    }
    expect(opened).toBeGreaterThan(FILES / 2);
    expect(opened + refused).toBe(FILES);
  }, 600_000);
});
