import { writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { hasArrived, type PreparedRun } from '@folvex/core';
import type { TransferLogin } from '@folvex/press';
import { DONE, printProblems, STOPPED, UNREADABLE } from './console';
import { publish, type PublishOptions } from './publish';
import type { FileReport } from './publish-files';
import { fileIn, sendTo, type SentTo } from './send-files';
import { loadServers } from './servers-file';
import { withWorkFolder } from './work-folder';

export interface SendOptions extends Omit<PublishOptions, 'check'> {
  out: string;
  /** File with the sign-in details of servers. */
  servers?: string;
  /** The folder below which folders of destinations are. */
  delivery: string;
  /** File that the receipts are written to. */
  receipts?: string;
}

/** `folvex send`: publishes a package, and sends its files to its destinations; returns its exit code. */
export async function send(jobFile: string, options: SendOptions): Promise<number> {
  const servers =
    options.servers === undefined ? new Map<string, TransferLogin>() : loadServers(options.servers, process.env);
  if ('sentence' in servers) {
    console.error(servers.sentence);
    return UNREADABLE;
  }
  return publish(jobFile, {
    ...options,
    check: false,
    next: {
      refusal: ({ input, destinations }) =>
        destinations.length > 0
          ? undefined
          : `The package "${input.package.id}" has no destinations; add some, or use folvex publish.`,
      run: (prepared, files) => sendAll(prepared, files, servers, options),
    },
  });
}

async function sendAll(
  { input, destinations }: PreparedRun,
  files: readonly FileReport[],
  transferServers: ReadonlyMap<string, TransferLogin>,
  { out, delivery, receipts }: SendOptions,
): Promise<number> {
  const folder = resolve(out);
  const all: SentTo[] = [];
  await withWorkFolder(
    folder,
    () => Promise.resolve(),
    async (work) => {
      for (const destination of destinations) {
        if (!destination.ok) {
          all.push({ where: 'destination', outcomes: [], problem: destination.problem });
          continue;
        }
        const sent = await sendTo(
          destination.value,
          files.map((file) => fileIn(folder, file)),
          {
            ...{ deliveryFolder: resolve(delivery), transferServers, work },
            input,
            waits: (sentence) => console.error(sentence),
          },
        );
        all.push(...sent);
      }
    },
  );
  for (const sent of all) print(sent, files.length);
  if (receipts) writeFileSync(receipts, `${JSON.stringify({ package: input.package.id, sent: all }, null, 2)}\n`);
  return all.every(isComplete) ? DONE : STOPPED;
}

function isComplete({ problem, outcomes }: SentTo): boolean {
  return !problem && outcomes.every(({ outcome }) => !('problem' in outcome));
}

function print({ where, outcomes, problem }: SentTo, files: number): void {
  const problems = outcomes.flatMap(({ outcome }) => ('problem' in outcome ? [outcome.problem] : []));
  printProblems([...(problem ? [problem] : []), ...problems]);
  const arrived = outcomes.filter(({ outcome }) => hasArrived(outcome)).length;
  console.log(`${where}  ${arrived} of ${files} ${files === 1 ? 'file' : 'files'}`);
}
