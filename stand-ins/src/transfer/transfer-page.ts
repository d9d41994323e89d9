import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { text } from 'node:stream/consumers';
import { escaped } from '../html';
import {
  TRANSFER_FAULTS,
  type Account,
  type SharedFolder,
  type StandInServer,
  type TransferFault,
} from './shared-folder';

/** A transfer server as its page shows it. */
export interface ShownShare {
  name: string;
  server: StandInServer;
  folder: SharedFolder;
  account: Account;
}

const FAULTS = Object.entries(TRANSFER_FAULTS) as [TransferFault, string][];

/** A page that shows what arrived on transfer servers, and makes them fail. */
export async function startTransferPage(
  shares: readonly ShownShare[],
  port = 0,
): Promise<{ address: string; stop(): Promise<void> }> {
  const server = createServer((request, response) => {
    answer(shares, request, response).catch(() => response.writeHead(500).end());
  });
  await new Promise<void>((listening) => server.listen(port, '127.0.0.1', listening));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    stop: () => {
      server.closeAllConnections();
      return new Promise((closed) => server.close(() => closed()));
    },
  };
}

async function answer(
  shares: readonly ShownShare[],
  request: IncomingMessage,
  response: ServerResponse,
): Promise<void> {
  const { method, url = '/' } = request;
  if (method === 'POST') {
    const share = shares[Number(url.slice(1))];
    if (!share) return void response.writeHead(404).end();
    const asked = new URLSearchParams(await text(request));
    share.folder.faults.clear();
    for (const [fault] of FAULTS) if (asked.has(fault)) share.folder.faults.add(fault);
    return void response.writeHead(303, { Location: '/' }).end();
  }
  if (url !== '/') return void response.writeHead(404).end();
  const shown = await Promise.all(shares.map(shareOf));
  response.writeHead(200, { 'Content-Type': 'text/html; charset=utf-8' })
    .end(`<!doctype html><html lang="en"><head><title>Transfer servers</title><style>
body { margin: 24px; background: #f5f3ee; color: #222; font: 15px sans-serif; }
section { margin-bottom: 16px; padding: 12px 16px; border: 1px solid #bbb; background: #fff; } h2 { margin: 0 0 8px; font-size: 17px; }
table { margin-top: 12px; } td { padding: 2px 16px 2px 0; } td:nth-child(2) { text-align: right; } label { margin-right: 16px; }
</style></head><body><h1>Transfer servers</h1>${shown.join('')}</body></html>`);
}

async function shareOf({ name, server, folder, account }: ShownShare, index: number): Promise<string> {
  const files = (await folder.files()).map(
    ({ path, bytes, at }) => `<tr><td>${escaped(path)}</td><td>${bytes}</td><td>${at.toISOString()}</td></tr>`,
  );
  const boxes = FAULTS.map(([fault, words]) => {
    const checked = folder.faults.has(fault) ? ' checked' : '';
    return `<label><input type="checkbox" name="${fault}"${checked} onchange="this.form.submit()"> ${words}</label>`;
  });
  return `<section><h2>${escaped(name)}</h2>
<p><code>${escaped(server.address)}</code>, user <code>${account.user}</code>, password <code>${account.password}</code></p>
<form method="post" action="/${index}">${boxes.join('')}<noscript><button>Set</button></noscript></form>
${files.length > 0 ? `<table>${files.join('')}</table>` : '<p>Nothing yet.</p>'}</section>`;
}
