import type { RunInfo } from '@folvex/contract';

/** Something a run did: ms from its beginning. */
export interface RunStep {
  /** Who did it, or what kind of work it was. */
  row: string;
  name: string;
  kind: 'made' | 'failed' | 'file';
  from: number;
  to: number;
}

const FILES = 'files';

/** What each worker of a run made when, and when its files were put together. */
export function stepsOf({ createdAt, sheets, files }: RunInfo): RunStep[] {
  const begin = Date.parse(createdAt);
  const step = (startedAt: string | null, milliseconds: number | null): Pick<RunStep, 'from' | 'to'> | undefined => {
    if (startedAt === null || milliseconds === null) return undefined;
    const from = Math.max(0, Date.parse(startedAt) - begin);
    return { from, to: from + milliseconds };
  };
  const workers = [...new Set(sheets.flatMap(({ worker }) => worker ?? []))].sort();
  const made = sheets.flatMap(({ number, state, startedAt, worker, milliseconds }): RunStep[] => {
    const times = step(startedAt, milliseconds);
    if (!times || worker === null) return [];
    const kind = state === 'failed' ? 'failed' : 'made';
    return [{ row: `worker ${workers.indexOf(worker) + 1}`, name: number, kind, ...times }];
  });
  const assembled = files.flatMap(({ path, startedAt, milliseconds }): RunStep[] => {
    const times = step(startedAt, milliseconds);
    return times ? [{ row: FILES, name: path, kind: 'file', ...times }] : [];
  });
  return [...made, ...assembled].sort((a, b) => a.row.localeCompare(b.row, 'en', { numeric: true }) || a.from - b.from);
}
