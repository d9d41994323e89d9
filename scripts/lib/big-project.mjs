// A made-up project of an office with many sheets, to look at and to measure on.
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const DRAWINGS = 60;
const SHEETS = 3000;
const GROUPS = 12;
const PACKAGES = [
  ['every', 'Every sheet', SHEETS],
  ['part', 'Part A', 400],
];

/** Writes the job file of the project and its drawings into a folder; returns the path of the job file. */
export function writeBigProject(folder) {
  mkdirSync(folder, { recursive: true });
  const drawings = Array.from({ length: DRAWINGS }, (_, i) => {
    const file = `part-${String(i + 1).padStart(2, '0')}.dxf`;
    writeFileSync(join(folder, file), drawing(i));
    return { id: `d${i}`, file };
  });
  const groups = Array.from({ length: GROUPS }, (_, i) => ({ id: `g${i}`, name: `Part ${i + 1}` }));
  const sheets = Array.from({ length: SHEETS }, (_, i) => sheet(i));
  const ids = sheets.map(({ id }) => id);
  const packages = PACKAGES.map(([id, name, count]) => ({
    ...{ id, name, recipe: 'colour', order: ids.slice(0, count), bundling: 'sheet' },
    names: { file: '[sheet.number] [sheet.title]', folder: '[group.name]', bundle: '[package.name]' },
  }));
  const job = {
    folvex: 4,
    project: { number: '3000', name: 'Long Wharf', client: 'Long Wharf Trust', fields: {} },
    ...{ drawings, groups, sheets, packages },
    recipes: [{ id: 'colour', name: 'Full colour, layers', colour: 'full', layers: 'shown' }],
  };
  const path = join(folder, 'big.job.json');
  writeFileSync(path, JSON.stringify(job));
  return path;
}

function sheet(i) {
  const group = Math.floor((i * GROUPS) / SHEETS);
  return {
    ...{ id: `s${i}`, number: `A-${String(i + 1).padStart(4, '0')}`, title: `Bay ${i + 1}`, group: `g${group}` },
    paper: { name: i % 3 === 0 ? 'A1' : 'A3', orientation: 'landscape' },
    frame: 'plain',
    titleBlock: { template: 'corner', fields: {} },
    // Every other sheet lacks the revision that its neighbours have: findings of one kind, many of them.
    ...(i % 2 === 0 && { revision: { index: 'P01', date: '2026-11-12', text: 'First issue' } }),
    views: [
      {
        ...{ id: 'v1', drawing: `d${i % DRAWINGS}`, space: 'model', window: 'extents', scale: '1:100' },
        ...{ at: 'centre', layersOff: [], label: '' },
      },
    ],
  };
}

/** A bay of a building in millimetres: a grid of walls, and its name. */
function drawing(i) {
  const lines = [];
  const line = (x1, y1, x2, y2) => lines.push(`0\nLINE\n8\nA-WALL\n10\n${x1}\n20\n${y1}\n11\n${x2}\n21\n${y2}\n`);
  for (let x = 0; x <= 12; x++) line(x * 1000, 0, x * 1000, 9000);
  for (let y = 0; y <= 9; y++) line(0, y * 1000, 12_000, y * 1000);
  line(0, 0, 12_000, (i % 9) * 1000);
  const name = `0\nTEXT\n8\nA-NOTE\n10\n500\n20\n9300\n40\n300\n1\nBay ${i + 1}\n`;
  const header = '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n';
  return `${header}0\nSECTION\n2\nENTITIES\n${lines.join('')}${name}0\nENDSEC\n0\nEOF\n`;
}
