import { createHash, generateKeyPairSync } from 'node:crypto';
import { lstat, mkdir, open, rm, rmdir, stat, type FileHandle } from 'node:fs/promises';
import type { Stats } from 'node:fs';
import type { AddressInfo } from 'node:net';
import ssh2, { type Connection, type FileEntry, type SFTPWrapper } from 'ssh2';
import { NotTaken, type ShareOptions, type StandInServer } from './shared-folder';

const { Server, utils } = ssh2;
const { STATUS_CODE, OPEN_MODE } = utils.sftp;

/** Reads of one file are answered with so many bytes at most. */
const MAX_READ_BYTES = 32_768;

/** A new private key (PEM) of an SFTP server. */
export function newHostKey(): string {
  // ssh2 1.17.0 cannot read about one in 300 of the Ed25519 keys that it generates itself.
  const { privateKey } = generateKeyPairSync('ec', { namedCurve: 'P-256' });
  return privateKey.export({ type: 'sec1', format: 'pem' }).toString();
}

/** An SFTP server (draft-ietf-secsh-filexfer-02) without extensions. `hostKey`: its private key (PEM). */
export async function startSftpServer({
  hostKey,
  ...share
}: ShareOptions & { hostKey: string }): Promise<StandInServer> {
  const { account, folder, port = 0 } = share;
  const open = new Set<Connection>();
  const server = new Server({ hostKeys: [hostKey] }, (client) => {
    open.add(client);
    client.on('close', () => open.delete(client));
    client.on('error', () => client.end());
    client.on('authentication', (asked) => {
      const isHere = asked.username === account.user && !folder.faults.has('refuses');
      if (isHere && asked.method === 'password' && asked.password === account.password) asked.accept();
      else asked.reject(['password']);
    });
    client.on('session', (accept) => {
      accept().on('sftp', (begin) => serve(begin(), share, () => client.end()));
    });
  });
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  const parsed = utils.parseKey(hostKey);
  if (parsed instanceof Error) throw parsed;
  const hash = createHash('sha256').update(parsed.getPublicSSH()).digest('base64').replace(/=+$/, '');
  return {
    address: `sftp://127.0.0.1:${(server.address() as AddressInfo).port}`,
    fingerprint: `SHA256:${hash}`,
    stop: () => {
      for (const client of open) client.end();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}

/** A file or folder that a client has open. */
type Open = { file: FileHandle } | { entries: FileEntry[] };

function serve(sftp: SFTPWrapper, { folder }: ShareOptions, breakOff: () => void): void {
  const handles = new Map<number, Open>();
  let last = 0;
  const opened = (one: Open): Buffer => {
    const handle = Buffer.alloc(4);
    handle.writeUInt32BE(++last);
    handles.set(last, one);
    return handle;
  };
  const openOf = (handle: Buffer): Open | undefined => handles.get(handle.readUInt32BE());
  const fileOf = (handle: Buffer): FileHandle => {
    const one = openOf(handle);
    if (!one || !('file' in one)) throw new Error('no such handle');
    return one.file;
  };
  /** Answers a request by what an action resolves with, or with what went wrong. */
  const answer = (id: number, action: () => Promise<void>): void => {
    action().catch((error: NodeJS.ErrnoException) => {
      if (error instanceof NotTaken && error.why === 'breaks') return breakOff();
      const code = error.code === 'ENOENT' ? STATUS_CODE.NO_SUCH_FILE : STATUS_CODE.FAILURE;
      sftp.status(id, code, error instanceof NotTaken ? 'No space left on device' : error.message);
    });
  };
  const done = (id: number, action: () => Promise<unknown>): void =>
    answer(id, async () => {
      await action();
      sftp.status(id, STATUS_CODE.OK);
    });
  sftp.on('OPEN', (id, path, flags) =>
    answer(id, async () => {
      const how = flags & OPEN_MODE.WRITE ? 'w' : 'r';
      sftp.handle(id, opened({ file: await open(folder.at(path), how) }));
    }),
  );
  sftp.on('READ', (id, handle, offset, length) =>
    answer(id, async () => {
      const buffer = Buffer.alloc(Math.min(length, MAX_READ_BYTES));
      const { bytesRead } = await fileOf(handle).read(buffer, 0, buffer.length, offset);
      if (bytesRead === 0) sftp.status(id, STATUS_CODE.EOF);
      else sftp.data(id, buffer.subarray(0, bytesRead));
    }),
  );
  sftp.on('WRITE', (id, handle, offset, data) =>
    done(id, async () => {
      const kept = await folder.take(data, offset);
      await fileOf(handle).write(kept, 0, kept.length, offset);
    }),
  );
  sftp.on('CLOSE', (id, handle) =>
    done(id, async () => {
      const one = openOf(handle);
      handles.delete(handle.readUInt32BE());
      if (one && 'file' in one) await one.file.close();
    }),
  );
  sftp.on('OPENDIR', (id, path) =>
    answer(id, async () => {
      const entries = (await folder.entries(path)).map(({ name, stats }) => entryOf(name, stats));
      sftp.handle(id, opened({ entries }));
    }),
  );
  sftp.on('READDIR', (id, handle) => {
    const one = openOf(handle);
    if (!one || !('entries' in one) || one.entries.length === 0) return void sftp.status(id, STATUS_CODE.EOF);
    sftp.name(id, one.entries.splice(0));
  });
  const attributes = (id: number, find: () => Promise<Stats>): void =>
    answer(id, async () => sftp.attrs(id, attributesOf(await find())));
  sftp.on('STAT', (id, path) => attributes(id, () => stat(folder.at(path))));
  sftp.on('LSTAT', (id, path) => attributes(id, () => lstat(folder.at(path))));
  sftp.on('FSTAT', (id, handle) => attributes(id, () => fileOf(handle).stat()));
  // Owners, permissions and times are left as this machine sets them.
  sftp.on('SETSTAT', (id) => sftp.status(id, STATUS_CODE.OK));
  sftp.on('FSETSTAT', (id) => sftp.status(id, STATUS_CODE.OK));
  sftp.on('REMOVE', (id, path) => done(id, () => rm(folder.at(path))));
  sftp.on('RMDIR', (id, path) => done(id, () => rmdir(folder.at(path))));
  sftp.on('MKDIR', (id, path) => done(id, () => mkdir(folder.at(path))));
  sftp.on('RENAME', (id, path, to) => done(id, () => folder.renameToFree(path, to)));
  sftp.on('REALPATH', (id, path) =>
    answer(id, async () => {
      sftp.name(id, [{ filename: folder.inside(path), longname: '', attrs: attributesOf(await stat(folder.root)) }]);
    }),
  );
  sftp.on('end', () => {
    for (const one of handles.values()) if ('file' in one) void one.file.close();
  });
}

function attributesOf({ mode, uid, gid, size, atimeMs, mtimeMs }: Stats) {
  return { mode, uid, gid, size, atime: Math.floor(atimeMs / 1000), mtime: Math.floor(mtimeMs / 1000) };
}

/** An entry of a listing; its long form is what `ls -l` prints, of which clients read the first letter. */
function entryOf(filename: string, stats: Stats): FileEntry {
  const kind = stats.isDirectory() ? 'd' : stats.isSymbolicLink() ? 'l' : '-';
  const longname = `${kind}rw-r--r-- 1 folvex folvex ${stats.size} Jan 1 00:00 ${filename}`;
  return { filename, longname, attrs: attributesOf(stats) };
}
