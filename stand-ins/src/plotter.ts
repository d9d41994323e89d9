import { createServer, type IncomingMessage, type RequestListener, type ServerResponse } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { PDFDocument } from '@cantoo/pdf-lib';
import ipp, { type Message } from '@sealsystems/ipp';
import { PlotQueue, type Loaded } from './plot-queue';
import { answer, type Awaited, type Document } from './plotter-answers';
import { plotterPage } from './plotter-page';

/** How often time passes for the plotter, ms. */
const TICK_MS = 200;
/** Where a message has its id (RFC 8010, 3.1.1). */
const ID_AT = 4;

export interface PlotterOptions {
  /** 0: any that is free. */
  port?: number;
  name?: string;
  media: Loaded[];
  /** Infinity: everything comes out at once. */
  mmPerSecond?: number;
  /** Key and certificate (PEM) where it is spoken to over TLS. */
  tls?: { key: Buffer; cert: Buffer } | undefined;
}

/** A plotter on loopback that speaks IPP and has a page that shows what came out of it. */
export interface StandInPlotter {
  address: string;
  queue: PlotQueue;
  /** What goes wrong: so many requests are broken off once they have been done; `isBusy`: jobs are refused for now. */
  faults: { breaks: number; isBusy: boolean };
  stop(): Promise<void>;
}

export async function startPlotter({
  port = 0,
  name = 'Plotter',
  media,
  mmPerSecond = Infinity,
  tls,
}: PlotterOptions): Promise<StandInPlotter> {
  const queue = new PlotQueue(media, mmPerSecond);
  const faults = { breaks: 0, isBusy: false };
  const awaited: Awaited = new Map();
  const started = performance.now();
  const listener: RequestListener = (request, response) => {
    handle(request, response).catch(() => response.writeHead(400).end('This is no request that a plotter knows.'));
  };
  const server = tls ? createSecureServer(tls, listener) : createServer(listener);
  const addressOf = (): string => {
    const { port: own } = server.address() as AddressInfo;
    return `${tls ? 'ipps' : 'ipp'}://127.0.0.1:${own}/plotter`;
  };
  const handle = async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const body = await bytesOf(request);
    if (request.headers['content-type'] !== 'application/ipp') return plotterPage(queue, name, request, body, response);
    const upTime = Math.max(1, Math.round((performance.now() - started) / 1000));
    const asked = ipp.parse(body);
    const uri = addressOf();
    const identity = { uri, moreInfo: uri.replace(/^ipp/, 'http'), name, upTime };
    const document = await documentIn(asked);
    const isRefused = faults.isBusy && asked.operation === 'Print-Job';
    const done = answer(queue, isRefused ? { ...asked, operation: 'Validate-Job' } : asked, document, {
      identity,
      awaited,
    });
    const answered = isRefused ? { ...done, statusCode: 'server-error-busy' } : done;
    if (faults.breaks > 0) {
      faults.breaks--;
      return void request.socket.destroy();
    }
    response.writeHead(200, { 'Content-Type': 'application/ipp' }).end(serialized(answered));
  };
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  const timer = mmPerSecond === Infinity ? undefined : setInterval(() => queue.run(TICK_MS / 1000), TICK_MS);
  return {
    ...{ address: addressOf(), queue, faults },
    stop: () => {
      clearInterval(timer);
      server.closeAllConnections();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}

/** What came with a request; what is no PDF counts as one page. */
async function documentIn({ data: pdf = Buffer.alloc(0) }: Message): Promise<Document> {
  const opened = await PDFDocument.load(pdf, { updateMetadata: false }).catch(() => undefined);
  return { pdf, pages: opened?.getPageCount() ?? 1 };
}

/** A message as bytes; the library gives one whose id is 0 an id of its own. */
function serialized(message: Message): Buffer {
  const bytes = ipp.serialize(message);
  bytes.writeInt32BE(message.id ?? 0, ID_AT);
  return bytes;
}

async function bytesOf(request: IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}
