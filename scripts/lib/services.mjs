import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { DIST } from '../build-node.mjs';
import { restartPause } from './pauses.mjs';

/** A process that does not end by itself is killed after this time. */
const STOP_TIMEOUT_MS = 5000;

/**
 * Keeps one of the built processes (`server`, `worker`) running. `ready` resolves when it first reports that it works,
 * and rejects with its exit code when it leaves by itself before: it has then said what is wrong. From then on it is
 * restarted whenever it stops unasked, with growing pauses while it does not get as far as reporting.
 */
export function keepRunning(name, environment) {
  let child;
  let timer;
  let stopping = false;
  let failures = 0;
  const service = {
    get pid() {
      return child?.pid;
    },
  };
  service.ready = new Promise((resolve, reject) => {
    let everReported = false;
    const start = () => {
      child = spawn(process.execPath, ['--enable-source-maps', join(DIST, `${name}.mjs`)], {
        env: { ...process.env, ...environment },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      });
      child.on('message', () => {
        everReported = true;
        failures = 0;
        resolve();
      });
      child.on('exit', (code, signal) => {
        if (stopping) return;
        if (!everReported && signal === null) return reject(new Error(String(code)));
        const pause = restartPause(failures++);
        console.error(`The ${name} stopped (${signal ?? code}) and is started again in ${pause / 1000} s.`);
        timer = setTimeout(start, pause);
      });
    };
    start();
  });
  service.stop = () =>
    new Promise((resolve) => {
      stopping = true;
      clearTimeout(timer);
      if (!child || child.exitCode !== null || child.signalCode !== null) return resolve();
      const last = setTimeout(() => child.kill('SIGKILL'), STOP_TIMEOUT_MS);
      child.once('exit', () => {
        clearTimeout(last);
        resolve();
      });
      child.kill('SIGTERM');
    });
  return service;
}
