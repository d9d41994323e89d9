// What threads of tests do in place of reading drawings: what the name of the file says.
import { appendFileSync } from 'node:fs';

export async function inspectDrawing({ name, path }) {
  if (path) appendFileSync(path, `${name}\n`);
  const [what, amount] = name.split(' ');
  switch (what) {
    case 'crash':
      // As a native library that meets a file it cannot cope with.
      process.kill(process.pid, 'SIGSEGV');
      await new Promise(() => undefined);
      break;
    case 'fill': {
      // Plain bytes, which the limit of a thread's objects does not count.
      const filled = [];
      for (let megabytes = 0; megabytes < Number(amount); megabytes += 10) {
        filled.push(Buffer.alloc(10 << 20, 1));
        await new Promise((resolve) => setImmediate(resolve));
      }
      await new Promise(() => filled);
      break;
    }
    case 'hang':
      for (;;);
    case 'throw':
      throw new Error('ENOSPC: no space left');
    default:
      return { ok: true, value: { name, bytes: new Uint8Array([1, 2, 3]) } };
  }
}
