import { cpus } from 'node:os';
import { resolve } from 'node:path';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import type { RenameRule } from '@folvex/core';
import { DONE, STOPPED, UNREADABLE } from './console';
import { inspectFile, type Inspected } from './inspect-file';
import { publish, type PublishOptions } from './publish';
import { relinkFolder } from './relink-folder';
import { pushFiles, runRemote } from './remote';
import type { ServerOptions } from './remote-project';
import { send, type SendOptions } from './send';
import { writeTestSheet } from './test-sheet';
import { watch, type WatchOptions } from './watch';

/** Put in by the build: the version of package.json. */
declare const FOLVEX_VERSION: string | undefined;

const MAX_WORKERS = 64;
const MAX_QUIET_MINUTES = 1440;

/** Runs a command of maintenance on the installation; resolves with its exit code. */
type Maintain = (command: string, ...args: string[]) => Promise<number>;

/** Runs the command; returns its exit code (0 all done, 1 stopped or failed, 2 what it was given cannot be read). */
export async function main(args: readonly string[], maintain: Maintain): Promise<number> {
  let code: number = DONE;
  const program = new Command('folvex')
    .description('Publishes sets of building-design sheets to PDF')
    .version(typeof FOLVEX_VERSION === 'undefined' ? 'unbuilt' : FOLVEX_VERSION)
    .exitOverride()
    .configureHelp({ showGlobalOptions: true })
    .showHelpAfterError();
  program
    .command('publish')
    .description('publishes a package of a job file')
    .argument('<job.json>', 'the job file')
    .option('--package <id>', 'which package of the job file; may be left out when it has only one')
    .option('--out <folder>', 'folder that the files are written to')
    .option('--report <file>', 'also write what was done as JSON')
    .option('--workers <number>', 'worker threads', workersFrom, cpus().length)
    .option('--check', 'only run the checks and print the output plan', false)
    .option('--replace', 'replace files that are there already and differ', false)
    .action(async (jobFile: string, options: PublishOptions) => {
      code = await publish(jobFile, options);
    });
  const sending = (name: string, description: string): Command =>
    program
      .command(name)
      .description(description)
      .argument('<job.json>', 'the job file')
      .option('--package <id>', 'which package of the job file; may be left out when it has only one')
      .requiredOption('--out <folder>', 'folder that the files are written to before they are sent')
      .option('--servers <file.json>', 'sign-in details of the servers that destinations use')
      .option('--delivery <folder>', 'folder that contains the folders of destinations', 'delivered')
      .option('--report <file>', 'also write what was published as JSON')
      .option('--receipts <file>', 'also write what arrived where as JSON')
      .option('--workers <number>', 'worker threads', workersFrom, cpus().length)
      .option('--replace', 'replace files in the folder of --out that differ', false);
  sending('send', 'publishes a package of a job file and sends it to its destinations').action(
    async (jobFile: string, options: SendOptions) => {
      code = await send(jobFile, options);
    },
  );
  sending('watch', 'sends a package at its times, or after changes')
    .option('--quiet <minutes>', 'minutes without changes before it is sent', minutesFrom, 10)
    .action(async (jobFile: string, options: WatchOptions) => {
      code = await watch(jobFile, options);
    });
  program
    .command('inspect')
    .description(
      'prints as JSON what is in drawings: format, unit, extents, layouts and their named sizes, layers, fonts, warnings',
    )
    .argument('<files...>')
    .action(async (files: string[]) => {
      code = await inspect(files);
    });
  program
    .command('relink')
    .description('repairs links between PDFs whose files were renamed')
    .argument('<folder>', 'the folder of PDFs')
    .requiredOption('--out <folder>', 'folder that the repaired files are written to')
    .option('--rename', 'also rename the files by the rule', false)
    .option('--table <file.csv>', 'old and new names, a pair on each line')
    .option('--find <text>')
    .option('--replace <text>')
    .option('--remove-first <number>', 'how many characters to remove at the start of names', countFrom)
    .option('--prefix <text>')
    .option('--spaces <text>', 'what spaces are replaced by')
    .addOption(new Option('--case <case>').choices(['upper', 'lower']))
    .action(async (folder: string, { out, rename, table, ...rule }: RelinkOptions) => {
      code = await relinkFolder({ folder, out, rename, table, rule: ruleOf(rule) });
    });
  const onServer = (name: string, description: string): Command =>
    program
      .command(name)
      .description(`${description}; with the token in FOLVEX_TOKEN where people sign in`)
      .requiredOption('--project <project>', 'its number, name or id')
      .option('--server <address>', 'address of the Folvex', 'http://127.0.0.1:4780');
  onServer('push', 'sends drawings to a project on a server; those of a known name become newer versions')
    .argument('<files...>')
    .action(async (files: string[], options: ServerOptions) => {
      code = await pushFiles(files, options);
    });
  onServer('run', 'publishes a package on a server, and waits for it and its deliveries')
    .argument('<package>', 'the id of the package')
    .option('--out <folder>', 'also download the files into this folder')
    .action(async (pack: string, options: ServerOptions & { out?: string }) => {
      code = await runRemote(pack, options);
    });
  // Of the installation in the folder that FOLVEX_DATA names.
  for (const [name, description] of [
    ['backup', 'adds a backup of the installation to a folder, also while it runs'],
    ['restore', 'puts the latest backup in a folder into an empty installation'],
  ] as const)
    program
      .command(name)
      .description(description)
      .argument('<folder>', 'the folder of backups')
      .action(async (folder: string) => {
        code = await maintain(name, resolve(folder));
      });
  for (const [name, description] of [
    ['sweep', 'deletes what is past its retention time, and content that nothing refers to'],
    ['scrub', 'reads all content again and says which is damaged'],
  ] as const)
    program
      .command(name)
      .description(description)
      .action(async () => {
        code = await maintain(name);
      });
  program
    .command('test-sheet')
    .description('writes a page that tells whether a plotter prints to scale')
    .argument('<paper>', 'a named size, such as A3')
    .argument('<file.pdf>', 'the file to write')
    .action(async (paper: string, file: string) => {
      code = await writeTestSheet(paper, file);
    });
  try {
    await program.parseAsync(args, { from: 'user' });
    return code;
  } catch (error) {
    if (!(error instanceof CommanderError)) throw error;
    return error.exitCode === 0 ? DONE : UNREADABLE;
  }
}

interface RelinkOptions {
  out: string;
  rename: boolean;
  table?: string;
  find?: string;
  replace?: string;
  removeFirst?: number;
  prefix?: string;
  spaces?: string;
  case?: 'upper' | 'lower';
}

function ruleOf({ case: letters, ...rule }: Omit<RelinkOptions, 'out' | 'rename' | 'table'>): RenameRule {
  return { ...rule, ...(letters && { letters }) };
}

function workersFrom(value: string): number {
  const workers = Number(value);
  if (Number.isInteger(workers) && workers >= 1 && workers <= MAX_WORKERS) return workers;
  throw new InvalidArgumentError(`It takes a number from 1 to ${MAX_WORKERS}.`);
}

function countFrom(value: string): number {
  const count = Number(value);
  if (Number.isInteger(count) && count >= 0) return count;
  throw new InvalidArgumentError('It takes a number of characters.');
}

function minutesFrom(value: string): number {
  const minutes = Number(value);
  if (value !== '' && minutes >= 0 && minutes <= MAX_QUIET_MINUTES) return minutes;
  throw new InvalidArgumentError(`Give minutes from 0 to ${MAX_QUIET_MINUTES}.`);
}

/** Prints what is in files as one JSON array; 1 when one of them cannot be read. */
async function inspect(files: readonly string[]): Promise<number> {
  const found: Inspected[] = [];
  for (const file of files) found.push(await inspectFile(file));
  console.log(JSON.stringify(found, null, 2));
  return found.every(({ ok }) => ok) ? DONE : STOPPED;
}
