import { readFileSync } from 'node:fs';
import { partsOf, type TransferLogin } from '@folvex/press';
import { array, object, string, ValidationError, type InferType } from 'yup';

const serverSchema = object({
  /** Destinations refer to it by this. */
  id: string().strict().required(),
  name: string().strict(),
  address: string().strict().required(),
  user: string().strict(),
  secret: string().strict(),
  /** Name of the environment variable that holds it. */
  secretFrom: string().strict(),
  fingerprint: string().strict(),
}).noUnknown();
const serversSchema = array(serverSchema).strict().required();

/** Sign-in details of transfer servers, mail servers and plotters, by their ids; or a sentence about what is wrong. */
export function loadServers(
  file: string,
  environment: NodeJS.ProcessEnv,
): ReadonlyMap<string, TransferLogin> | { sentence: string } {
  try {
    const servers = serversSchema.validateSync(JSON.parse(readFileSync(file, 'utf8')));
    return new Map(servers.map((server) => [server.id, loginOf(server, environment)]));
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    const why =
      error instanceof ValidationError || error instanceof UnusableServer
        ? error.message
        : error instanceof SyntaxError
          ? 'it is not JSON'
          : (code ?? 'error');
    return { sentence: `The file of servers ${file} cannot be read: ${why}. docs/job-file.md describes it.` };
  }
}

class UnusableServer extends Error {}

function loginOf(server: InferType<typeof serverSchema>, environment: NodeJS.ProcessEnv): TransferLogin {
  const { id, name, address, user = '', secret, secretFrom, fingerprint } = server;
  if (!URL.canParse(address)) throw new UnusableServer(`${address} is not an address`);
  partsOf(address);
  const held = secretFrom === undefined ? secret : environment[secretFrom];
  if (secretFrom !== undefined && held === undefined)
    throw new UnusableServer(`the environment variable ${secretFrom}, which holds the secret of ${id}, is not set`);
  return { name: name ?? id, address, user, secret: held ?? '', fingerprint: fingerprint ?? null };
}
