import { spawn } from 'node:child_process';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { mediaIn, mediumInWords } from '@folvex/core';
import { escaped } from './html';
import { isOver, type PlotQueue, type QueuedJob } from './plot-queue';

/** How large a metre of paper is on the page, px. */
const PX_PER_M = 240;
const PICTURE_DPI = 24;
const NEW_ROLL_MM = 30_000;

/** The page of a plotter: its paper, its queue, and what came out at true proportions. Posts to it act at the plotter. */
export function plotterPage(
  queue: PlotQueue,
  name: string,
  { method, url = '/' }: IncomingMessage,
  body: Buffer,
  response: ServerResponse,
): void {
  const job = queue.jobs.find(({ id }) => url.startsWith(`/jobs/${id}.`));
  if (job && url.endsWith('.png')) return sendPicture(job, response);
  if (job) return void response.writeHead(200, { 'Content-Type': 'application/pdf' }).end(job.pdf);
  if (method === 'POST') {
    act(queue, url, new URLSearchParams(body.toString()));
    return void response.writeHead(303, { Location: '/' }).end();
  }
  if (url !== '/' && url !== '/plotter') return void response.writeHead(404).end();
  response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' }).end(html(queue, name));
}

/** The first piece of a job as a picture, by poppler; none where that is not installed. */
function sendPicture({ pdf }: QueuedJob, response: ServerResponse): void {
  const child = spawn('pdftoppm', ['-png', '-r', String(PICTURE_DPI), '-singlefile', '-'], {
    stdio: ['pipe', 'pipe', 'ignore'],
  });
  child.on('error', () => response.writeHead(404).end());
  child.stdin.on('error', () => undefined);
  child.stdin.end(pdf);
  response.setHeader('Content-Type', 'image/png');
  child.stdout.pipe(response);
}

function act(queue: PlotQueue, url: string, values: URLSearchParams): void {
  if (url === '/pause') queue.isPaused = !queue.isPaused;
  if (url === '/cancel') queue.cancel(Number(values.get('job')));
  if (url === '/load')
    for (const medium of mediaIn(values.get('media') ?? '').media) queue.load({ ...medium, leftMm: NEW_ROLL_MM });
  queue.run(0);
}

function html(queue: PlotQueue, name: string): string {
  const media = queue.media.map(
    (medium) => `<li>${mediumInWords(medium)}: ${(medium.leftMm / 1000).toFixed(2)} m left</li>`,
  );
  const waiting = queue.jobs.filter((job) => !isOver(job)).map(rowOf);
  const out = [...queue.jobs]
    .reverse()
    .filter(({ printed }) => printed > 0)
    .map(piecesOf);
  const reasons = queue.reasons.length > 0 ? ` (${queue.reasons.join(', ')})` : '';
  return `<!doctype html><html lang="en"><head><title>${escaped(name)}</title><meta http-equiv="refresh" content="5"><style>
body { margin: 24px; background: #f5f3ee; color: #222; font: 15px sans-serif; }
form { display: inline; } ul { padding-left: 18px; }
.out { display: flex; flex-wrap: wrap; align-items: flex-start; gap: 16px; }
.out figure { margin: 0; } .out a { display: block; background: #fff; border: 1px solid #888; overflow: hidden; }
</style></head><body>
<h1>${escaped(name)}: ${queue.state}${reasons}</h1>
<form method="post" action="/pause"><button>${queue.isPaused ? 'Go on' : 'Stop'}</button></form>
<h2>Paper</h2><ul>${media.join('')}</ul>
<form method="post" action="/load"><label>New roll or sheets <input name="media" placeholder="610"></label> <button>Load</button></form>
<h2>Queue</h2><ul>${waiting.join('') || '<li>Nothing.</li>'}</ul>
<h2>Came out</h2><div class="out">${out.join('') || 'Nothing yet.'}</div>
</body></html>`;
}

function rowOf({ id, name, state, printed, pieces }: QueuedJob): string {
  const cancel = `<form method="post" action="/cancel"><input type="hidden" name="job" value="${id}"><button>Cancel</button></form>`;
  return `<li>${escaped(name)}: ${state}, ${printed} of ${pieces} ${cancel}</li>`;
}

function piecesOf({ id, name, width, length, printed, isGrey }: QueuedJob): string {
  const [w, h] = [width, length].map((mm) => Math.round((mm / 1000) * PX_PER_M));
  const size = `${width} × ${length} mm, ${printed} of them${isGrey ? ', in greys' : ''}`;
  return `<figure><a href="/jobs/${id}.pdf" style="width:${w}px;height:${h}px"><img src="/jobs/${id}.png" width="${w}" height="${h}" alt="${escaped(name)}"></a><figcaption>${escaped(name)}<br>${size}</figcaption></figure>`;
}
