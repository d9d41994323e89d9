import { parseArgs } from 'node:util';
import { RELINK_USAGE } from './relink';

export interface PublishArguments {
  jobFile: string;
  package: string;
  out: string;
  report: string | undefined;
  workers: number;
  check: boolean;
  replace: boolean;
}

export const USAGE = `folvex publish JOB.json --package ID --out DIR
               [--report FILE.json] [--workers N] [--check] [--replace]

  --package ID     which package of the job file; may be left out when it has only one
  --out DIR        folder that the files are written to
  --report FILE    also write what was done as JSON
  --workers N      worker threads (default: one a core)
  --check          only run the checks and print the output plan
  --replace        replace files that are there already and differ

folvex inspect FILE…
  prints as JSON what is in drawings: format, unit, extents, layouts and their named sizes, layers, fonts, warnings

${RELINK_USAGE}`;

/** The files of `folvex inspect`; undefined for another command. */
export function filesToInspect(args: readonly string[]): string[] | undefined {
  const [command, ...files] = args;
  return command === 'inspect' && files.length > 0 && !files.some((file) => file.startsWith('-')) ? files : undefined;
}

/** Reads the command line; a wrong one comes back as the sentence to print. */
export function readArguments(args: readonly string[], cores: number): PublishArguments | string {
  try {
    const { values, positionals } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        package: { type: 'string', default: '' },
        out: { type: 'string', default: '' },
        report: { type: 'string' },
        workers: { type: 'string', default: String(cores) },
        check: { type: 'boolean', default: false },
        replace: { type: 'boolean', default: false },
      },
    });
    const [command, jobFile, ...rest] = positionals;
    if (command !== 'publish' || !jobFile || rest.length > 0) return USAGE;
    const workers = Number(values.workers);
    if (!Number.isInteger(workers) || workers < 1 || workers > 64) return '--workers takes a number from 1 to 64.';
    if (!values.out && !values.check) return 'Say with --out which folder the files go to.';
    const { check, replace, report, out } = values;
    return { jobFile, package: values.package, out, report, workers, check, replace };
  } catch (error) {
    return `${(error as Error).message}\n\n${USAGE}`;
  }
}
