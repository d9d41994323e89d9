import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { DIST } from '../build-node.mjs';

const RESTART_MS = 500;
const PATIENCE_MS = 5000;

/**
 * Keeps one of the built processes (`server`, `worker`) running: when it dies unasked it is started again. `ready`
 * resolves when it first reports; rejects with its exit code when it leaves by itself before.
 */
export function keepRunning(name, environment) {
  let child;
  let stopping = false;
  const state = {
    get pid() {
      return child?.pid;
    },
  };
  state.ready = new Promise((resolve, reject) => {
    const start = () => {
      child = spawn(process.execPath, ['--enable-source-maps', join(DIST, `${name}.mjs`)], {
        env: { ...process.env, ...environment },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      });
      let reported = false;
      child.on('message', () => {
        reported = true;
        resolve();
      });
      child.on('exit', (code, signal) => {
        if (stopping) return;
        if (!reported && signal === null) return reject(new Error(String(code)));
        console.error(`The ${name} stopped (${signal ?? code}) and is started again.`);
        setTimeout(() => !stopping && start(), RESTART_MS);
      });
    };
    start();
  });
  state.stop = () =>
    new Promise((resolve) => {
      stopping = true;
      if (!child || child.exitCode !== null || child.signalCode !== null) return resolve();
      const last = setTimeout(() => child.kill('SIGKILL'), PATIENCE_MS);
      child.once('exit', () => {
        clearTimeout(last);
        resolve();
      });
      child.kill('SIGTERM');
    });
  return state;
}
