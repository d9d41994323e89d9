import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const BIN = fileURLToPath(new URL('../bin/folvex.mjs', import.meta.url));
export const DEMO = fileURLToPath(new URL('../../demo/tern-quay.job.json', import.meta.url));

export interface Ended {
  code: number | null;
  out: string;
  err: string;
}

/** Runs the headless command as a person would. */
export function folvex(...args: string[]): Ended {
  const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], { encoding: 'utf8' });
  return { code: status, out: stdout, err: stderr };
}

/** Starts the headless command and does not wait for its end. */
export function startFolvex(...args: string[]): ChildProcess {
  return spawn(process.execPath, [BIN, ...args], { stdio: 'ignore' });
}

/** Output of one of the outside tools. */
export function tool(command: string, ...args: string[]): string {
  return execFileSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28 });
}

/** A folder that goes when the suite ends. */
export function ownFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'folvex-cli-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  return folder;
}

/** A job with one sheet that shows one drawing, and the drawing next to it; returns the job's path. */
export function smallJob(folder: string, drawing: string | Uint8Array, more: Record<string, unknown> = {}): string {
  writeFileSync(join(folder, 'wall.dxf'), drawing);
  const view = { id: 'v', drawing: 'd', window: [0, 0, 15_000, 10_000], scale: '1:50', at: [100, 100] };
  const job = {
    folvex: 4,
    project: { number: '1', name: 'Small' },
    drawings: [{ id: 'd', file: 'wall.dxf', unit: 'mm' }],
    sheets: [{ id: 's', number: 'A-1', title: 'Wall', paper: { name: 'A1' }, views: [view] }],
    packages: [{ id: 'p', name: 'Set', order: ['s'], names: { bundle: '[package.name]' } }],
    ...more,
  };
  const path = join(folder, 'job.json');
  writeFileSync(path, JSON.stringify(job));
  return path;
}

/** A wall of 12 345 mm, drawn as its two faces, and a note. */
export const WALL_DXF = [
  [0, 'SECTION', 2, 'ENTITIES'],
  [0, 'LINE', 8, 'A-WALL', 370, 50, 10, 1000, 20, 2000, 11, 13_345, 21, 2000],
  [0, 'LINE', 8, 'A-WALL', 370, 50, 10, 1000, 20, 2300, 11, 13_345, 21, 2300],
  [0, 'TEXT', 8, 'A-NOTE', 10, 1000, 20, 3000, 40, 250, 1, 'Brick 300'],
  [0, 'ENDSEC', 0, 'EOF'],
]
  .flat()
  .map((value) => `${value}\n`)
  .join('');
