import type { Router } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { ROUTES, type Readiness } from '@folvex/contract';
import { aliveWorkers, workload } from '../data/workload';
import { healthOf, SILENT_SECONDS, spaceOf } from '../work/health';
import type { Services } from '../work/services';
import { handler } from './answers';
import { guardedRouter } from './guarded-router';

/** Seconds that requests are counted up to. */
const BUCKETS = [0.005, 0.02, 0.1, 0.5, 2, 10];

/** For whoever watches over a server: whether its process lives, whether it can do its work, and figures for Prometheus. */
export function healthRoutes(services: Services): Router {
  const router = guardedRouter(services);
  const registry = metricsOf(services);
  const requests = new Histogram({
    name: 'folvex_request_seconds',
    help: 'How long requests took, by route.',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS,
    registers: [registry],
  });
  router.router.use((request, response, next) => {
    const end = requests.startTimer();
    response.on('finish', () => {
      // Only what is a route: addresses of others would be endless.
      const route = (request.route as { path?: string } | undefined)?.path ?? 'other';
      end({ method: request.method, route, status: response.statusCode });
    });
    next();
  });
  router.get(ROUTES.live, (_request, response) => void response.json({ ok: true }));
  router.get(
    ROUTES.ready,
    handler(async (_request, response) => {
      const checks = await healthOf(services);
      const ok = checks.every((check) => check.ok);
      response.status(ok ? 200 : 503).json({ ok, checks } satisfies Readiness);
    }),
  );
  router.get(
    ROUTES.metrics,
    handler(async (_request, response) => {
      response.type(registry.contentType).send(await registry.metrics());
    }),
  );
  return router.router;
}

function metricsOf({ db, store }: Services): Registry {
  const register = new Registry();
  collectDefaultMetrics({ register });
  const gauge = (name: string, help: string, set: (gauge: Gauge) => Promise<void>, labelNames: string[] = []): void => {
    new Gauge({
      ...{ name, help, labelNames, registers: [register] },
      async collect() {
        // A figure that cannot be had is left out; readiness says why.
        await set(this).catch(() => this.reset());
      },
    });
  };
  const waiting = new Gauge({
    ...{ name: 'folvex_waiting_sheets', help: 'Sheets of runs that go on, still to be made.', registers: [register] },
  });
  gauge(
    'folvex_runs',
    'Runs by their state.',
    async (runs) => {
      const { runs: states, waitingSheets } = await workload(db);
      waiting.set(waitingSheets);
      for (const [state, count] of Object.entries(states)) runs.set({ state }, count);
    },
    ['state'],
  );
  gauge('folvex_workers', 'Workers that showed themselves within the last minute.', async (workers) => {
    workers.set(await aliveWorkers(db, SILENT_SECONDS));
  });
  gauge('folvex_store_free_bytes', 'Bytes free on the disk of the store.', async (free) => {
    free.set((await spaceOf(store.workFolder)).free);
  });
  return register;
}
