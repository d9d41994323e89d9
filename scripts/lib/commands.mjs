import { execFile, spawn } from 'node:child_process';

/** Runs a command; resolves to { code, output }, also when it fails. */
export function attempt(command, args, options = {}) {
  return new Promise((resolve) => {
    execFile(command, args, { maxBuffer: 1 << 26, ...options }, (error, stdout, stderr) => {
      const code = error ? (typeof error.code === 'number' ? error.code : 127) : 0;
      resolve({ code, output: `${stdout}${stderr}` });
    });
  });
}

/** Runs a command with its output shown; resolves to its exit code. */
export function show(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: ['ignore', 'inherit', 'inherit'], ...options });
    child.on('error', () => resolve(127));
    child.on('exit', (code, signal) => resolve(signal ? 128 : (code ?? 1)));
  });
}
