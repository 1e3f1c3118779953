import type { FastifyInstance } from 'fastify';
import { Counter, Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';

/** Adds /metrics: how much is done and how fast, and nothing of what or for whom. */
export function addMetrics(relay: FastifyInstance, waiting: () => number) {
  const registry = new Registry();
  const registers = [registry];
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'relay_request_seconds',
    help: 'How long requests took, by kind and answer',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.002, 0.005, 0.01, 0.05, 0.2, 1, 5],
    registers,
  });
  const appended = new Counter({ name: 'relay_rows_appended', help: 'Rows that were put into logs', registers });
  new Gauge({
    name: 'relay_waiting',
    help: 'Devices that wait for a log to grow',
    registers,
    collect() {
      this.set(waiting());
    },
  });
  relay.addHook('onResponse', async (request, reply) => {
    const route = request.routeOptions.url ?? 'none';
    requests.observe({ method: request.method, route, status: reply.statusCode }, reply.elapsedTime / 1000);
  });
  relay.get('/metrics', { config: { open: true, rateLimit: false } }, async (_request, reply) =>
    reply.type(registry.contentType).send(await registry.metrics()),
  );
  return { appended };
}
