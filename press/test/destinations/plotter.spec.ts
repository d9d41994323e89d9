import { execFile } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import ipp from '@sealsystems/ipp';
import { PageBuilder, piecePage, planPlot, type Plot } from '@folvex/core';
import { linePath } from '../../../core/src/geometry/outline';
import { startPlotter, type StandInPlotter } from '../../../stand-ins/src/index';
import { openDestination } from '../../src/destinations';
import type { PlotterFacts, PlotterPort } from '../../src/destinations/port';
import { probeTransfer } from '../../src/destinations/probe';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { pagePdf } from '../../src/pdf/page-pdf';
import { openPlotFiles } from '../../src/plot/plot-files';
import { startCups, type CupsPeer } from '../support/cups-peer';
import { ownCertificate } from '../support/peers';
import { ownFolder, tool } from '../support/published';

const work = ownFolder();
const PLOT: Plot = { kind: 'plotter', server: 'p' };

const portTo = (login: TransferLogin): Promise<PlotterPort> =>
  openDestination(PLOT, { deliveryFolder: work, transferServers: new Map([['p', login]]) });
const loginOf = ({ address }: Pick<StandInPlotter, 'address'>): TransferLogin => ({
  ...{ name: 'Stand-in', address, user: '', secret: '', fingerprint: null },
});
const written = (name: string, bytes: Uint8Array): string => {
  writeFileSync(join(work, name), bytes);
  return join(work, name);
};
/** A page of a size in mm with a line of 100 mm along its width, 0.1 mm wide. */
const pageWithLine = (width: number, height: number): Promise<Uint8Array> => {
  const builder = new PageBuilder(width, height);
  builder.stroke(linePath([50, 60], [150, 60]), builder.layer('', 'Lines'), builder.pen(0.1, 0));
  return pagePdf(builder.build(), 'line');
};

/** Waits until the job of a name is no longer open. */
async function ended(port: PlotterPort, name: string): Promise<string> {
  for (;;) {
    const found = (await port.jobs()).find((job) => job.name === name);
    if (found && found.state !== 'open') return found.state;
  }
}

describe.each(['the stand-in', 'CUPS'])('a plotter, as %s is one', (which) => {
  let cups: CupsPeer | undefined;
  let standIn: StandInPlotter | undefined;
  let login: TransferLogin;
  beforeAll(async () => {
    if (which === 'CUPS') cups = await startCups(join(work, 'cups'));
    else standIn = await startPlotter({ media: [{ kind: 'roll', width: 610, leftMm: 100_000 }] });
    login = cups?.login ?? loginOf(standIn!);
  });
  afterAll(() => (cups ?? standIn)!.stop());

  it('prints a file as it is, in a job that is known by its name', async () => {
    const port = await portTo(login);
    expect(await port.facts()).toMatchObject({ state: 'idle', reasons: [] });
    const pdf = await pageWithLine(610, 841);
    const file = written('one.pdf', pdf);
    const name = 'Permit set 1 of 1 [a1b2]';
    const id = await port.print({ name, file, width: 610, length: 841, isGrey: true });
    expect(id).toBeGreaterThan(0);
    expect(await ended(port, name)).toBe('done');
    expect((await port.jobs()).find((job) => job.name === name)).toEqual({ id, name, state: 'done' });
    expect(Buffer.compare(cups?.taken() ?? standIn!.queue.jobs[0]!.pdf, Buffer.from(pdf))).toBe(0);
  });

  it('is stopped, and a job that waits is cancelled', async () => {
    const port = await portTo(login);
    if (cups) cups.command('cupsdisable');
    else standIn!.queue.isPaused = true;
    const file = written('two.pdf', await pageWithLine(610, 300));
    const id = await port.print({ name: 'waits', file, width: 610, length: 300, isGrey: false });
    const facts = await port.facts();
    expect(facts).toMatchObject({ state: 'stopped', reasons: [expect.stringContaining('paused') as string] });
    expect((await port.jobs()).find((job) => job.id === id)).toMatchObject({ state: 'open' });
    await port.cancel(id);
    expect(await ended(port, 'waits')).toBe('cancelled');
    if (cups) cups.command('cupsenable');
    else standIn!.queue.isPaused = false;
  });

  it('is tested step by step', async () => {
    const steps = await probeTransfer(login);
    expect(steps.map(({ name, ok }) => [name, ok])).toEqual([
      ...[
        ['name', true],
        ['connection', true],
        ['sign-in', true],
        ['paper', true],
      ],
    ]);
    expect(steps[2]!.sentence).toBe('It answers as a plotter, and is idle.');
  });

  it('says what is not there', async () => {
    const port = await portTo(login);
    await expect(port.cancel(4711)).rejects.toMatchObject({ problem: { code: 'plot.refused' } });
  });
});

/** What is made of a plotter's answer with these attributes. */
async function answering(attributes: Record<string, unknown>): Promise<PlotterFacts> {
  const answer = {
    ...{ version: '2.0', statusCode: 'successful-ok', id: 1 },
    'operation-attributes-tag': { 'attributes-charset': 'utf-8', 'attributes-natural-language': 'en' },
    'printer-attributes-tag': { 'printer-state': 'idle', ...attributes },
  };
  const plotter = createServer((_request, response) => {
    response.writeHead(200, { 'Content-Type': 'application/ipp' }).end(ipp.serialize(answer as never));
  });
  await new Promise<void>((ready) => plotter.listen(0, '127.0.0.1', ready));
  const { port } = plotter.address() as AddressInfo;
  const asked = await portTo({ ...loginOf({ address: `ipp://127.0.0.1:${port}/p` }) });
  try {
    return await asked.facts();
  } finally {
    plotter.closeAllConnections();
    await new Promise((closed) => plotter.close(closed));
  }
}

describe('a plotter', () => {
  let standIn: StandInPlotter;
  beforeAll(async () => {
    standIn = await startPlotter({
      media: [
        { kind: 'sheet', name: 'A3', width: 297, height: 420, leftMm: 1e6 },
        { kind: 'roll', width: 914, leftMm: 9000 },
      ],
    });
  });
  afterAll(() => standIn.stop());

  it('tells the rolls and sheets that it holds', async () => {
    const port = await portTo(loginOf(standIn));
    expect((await port.facts()).media).toEqual([
      { kind: 'sheet', name: 'A3', width: 297, height: 420 },
      { kind: 'roll', width: 914 },
    ]);
    const [paper] = (await probeTransfer(loginOf(standIn))).slice(-1);
    expect(paper!.sentence).toBe('It holds A3, roll 914 mm.');
  });

  it('tells the widest edge that it cannot print on', async () => {
    const told = async (attributes: Parameters<typeof answering>[0]) => (await answering(attributes)).marginMm;
    expect((await (await portTo(loginOf(standIn))).facts()).marginMm).toBe(5);
    expect(await told({})).toBe(0);
    // Hundredths of a millimetre (PWG 5100.7); borderless printing is one of the widths.
    const widths = { 'media-top-margin-supported': [0, 300], 'media-left-margin-supported': 635 };
    expect(await told(widths)).toBe(6.35);
  });

  it('loses no job that ends while its jobs are asked for', async () => {
    const port = await portTo(loginOf(standIn));
    const { queue } = standIn;
    const file = written('ends.pdf', await pageWithLine(914, 200));
    queue.isPaused = true;
    await port.print({ name: 'ends', file, width: 914, length: 200, isGrey: false });
    // It comes out as soon as the first question about jobs was answered.
    queue.jobs.filter = function (this: typeof queue.jobs, ...how: Parameters<typeof queue.jobs.filter>) {
      const found = Array.prototype.filter.apply(this, how) as typeof queue.jobs;
      queue.isPaused = false;
      queue.run(0);
      return found;
    } as typeof queue.jobs.filter;
    const found = await port.jobs();
    Reflect.deleteProperty(queue.jobs, 'filter');
    expect(found.filter(({ name }) => name === 'ends').map(({ state }) => state)).toEqual(['done']);
  });

  it('may be away, busy, or no plotter at all', async () => {
    const port = await portTo(loginOf(standIn));
    const file = written('busy.pdf', await pageWithLine(914, 200));
    const print = () => port.print({ name: 'busy', file, width: 914, length: 200, isGrey: false });
    standIn.faults.isBusy = true;
    await expect(print()).rejects.toMatchObject({
      step: 'connection',
      sentence: expect.stringContaining('server-error-busy') as string,
    });
    standIn.faults.isBusy = false;
    standIn.faults.breaks = 1;
    await expect(print()).rejects.toMatchObject({ step: 'connection' });
    // It has taken the job before it broke off: who asks by its name finds it.
    expect((await port.jobs()).map(({ name }) => name)).toContain('busy');
    const nobody = await portTo({ ...loginOf(standIn), address: 'ipp://127.0.0.1:9/none' });
    await expect(nobody.facts()).rejects.toMatchObject({ step: 'connection' });
    const mail = await openDestination(PLOT, {
      deliveryFolder: work,
      transferServers: new Map([['p', { ...loginOf(standIn), address: 'smtp://127.0.0.1' }]]),
    }).catch((error: unknown) => error);
    expect(mail).toMatchObject({ problem: { code: 'transfer.absent' } });
  });

  it('passes what ipptool asks of IPP 1.1 (its test ipp-1.1)', async () => {
    // It runs in this process, which must not be waiting for the tool.
    const report = await new Promise<string>((resolve) => {
      const args = ['-t', '-f', join(work, 'busy.pdf'), standIn.address, 'ipp-1.1.test'];
      execFile('/usr/bin/ipptool', args, (_error, out) => resolve(out));
    });
    expect(report).not.toContain('[FAIL]');
    expect(report.match(/\[PASS\]/g)!.length).toBeGreaterThanOrEqual(20);
  });
});

describe('a plotter over TLS', () => {
  it('is trusted once its certificate was accepted, and no longer where it shows another one', async () => {
    const own = ownCertificate(work);
    const tls = { key: readFileSync(own.key), cert: readFileSync(own.certificate) };
    const secure = await startPlotter({ media: [{ kind: 'roll', width: 610, leftMm: 9000 }], tls });
    expect(secure.address).toMatch(/^ipps:/);
    const unknown = loginOf(secure);
    await expect((await portTo(unknown)).facts()).rejects.toMatchObject({
      step: 'certificate',
      fingerprint: own.fingerprint,
    });
    expect((await probeTransfer(unknown)).at(-1)).toMatchObject({
      name: 'certificate',
      ok: false,
      fingerprint: own.fingerprint,
    });
    const accepted = { ...unknown, fingerprint: own.fingerprint };
    const port = await portTo(accepted);
    const file = written('secure.pdf', await pageWithLine(610, 300));
    await port.print({ name: 'secure', file, width: 610, length: 300, isGrey: false });
    expect(await ended(port, 'secure')).toBe('done');
    expect(secure.queue.jobs[0]!.pdf.equals(readFileSync(file))).toBe(true);
    expect((await probeTransfer(accepted)).map(({ name, ok }) => `${name} ${ok}`)).toContain('certificate true');
    const another = await portTo({ ...unknown, fingerprint: `SHA256:${'A'.repeat(43)}` });
    await expect(another.facts()).rejects.toMatchObject({
      step: 'certificate',
      sentence: expect.stringContaining('shows another certificate than the accepted one') as string,
    });
    await secure.stop();
  });
});

describe('what comes out', () => {
  it('is at true size: a line of 100 mm on an A1, turned on a roll of 610 mm (read by poppler)', async () => {
    const plotted = await startPlotter({ media: [{ kind: 'roll', width: 610, leftMm: 10_000 }] });
    const files = await openPlotFiles([{ from: written('a1.pdf', await pageWithLine(841, 594)), path: 'A-101.pdf' }]);
    expect(files.sources).toEqual([
      { file: 'A-101.pdf', page: 1, width: expect.closeTo(841, 3) as number, height: expect.closeTo(594, 3) as number },
    ]);
    const { pieces } = planPlot(files.sources, { media: [{ kind: 'roll', width: 610 }] });
    const file = written('piece.pdf', await files.pdfOf(pieces, { title: 'piece', cutLines: false }));
    const port = await portTo(loginOf(plotted));
    const [{ width, length }] = pieces as [(typeof pieces)[number]];
    await port.print({ name: 'a1', file, width, length, isGrey: false });
    const came = written('came-out.pdf', plotted.queue.jobs[0]!.pdf);
    await plotted.stop();
    expect(plotted.queue.jobs[0]).toMatchObject({ width: 610, length: 841, pieces: 1, printed: 1 });
    expect(tool('pdfinfo', came)).toMatch(/Page size: +1729\.13 x 2383\.94 pts/);
    // 254 dpi are ten dots to the millimetre; the ends of the line are round, and stand out by half its width.
    tool('pdftoppm', '-r', '254', '-gray', came, join(work, 'came-out'));
    const dark = darkBox(readFileSync(join(work, 'came-out-1.pgm')));
    expect(dark.height).toBeGreaterThanOrEqual(999);
    expect(dark.height).toBeLessThanOrEqual(1002);
    expect(dark.width).toBeLessThanOrEqual(3);
  });

  it('has lines to cut along where they are wanted, and pages of several files next to each other', async () => {
    const files = await openPlotFiles(
      await Promise.all(
        ['A.pdf', 'B.pdf'].map(async (path) => ({ from: written(path, await pageWithLine(420, 297)), path })),
      ),
    );
    const { pieces } = planPlot(files.sources, { media: [{ kind: 'roll', width: 610 }], nested: true });
    expect(pieces).toMatchObject([{ length: expect.closeTo(420, 3) as number, pages: [{}, {}] }]);
    const page = piecePage(pieces[0]!, files.sources, true);
    expect(page.layers.map(({ name }) => name)).toEqual(['Pages', 'Cutting lines']);
    const plain = written('plain.pdf', await files.pdfOf(pieces, { title: 't', cutLines: false }));
    const cut = written('cut.pdf', await files.pdfOf(pieces, { title: 't', cutLines: true }));
    tool('qpdf', '--check', cut);
    const inkOf = (file: string): number => {
      tool('pdftoppm', '-r', '50', '-gray', file, `${file}-ink`);
      return readFileSync(`${file}-ink-1.pgm`).filter((value) => value < 250).length;
    };
    expect(inkOf(cut)).toBeGreaterThan(inkOf(plain) + 500);
  });

  it('is not made of files that are protected by a password, or are none', async () => {
    const plain = written('plain-a3.pdf', await pageWithLine(420, 297));
    const locked = join(work, 'locked.pdf');
    tool('qpdf', '--encrypt', 'secret', 'other', '256', '--', plain, locked);
    await expect(openPlotFiles([{ from: locked, path: 'A.pdf' }])).rejects.toMatchObject({
      problem: {
        code: 'pdf.password',
        sentence: 'A.pdf is protected by a password and cannot be printed; publish the package without one.',
      },
    });
    // One that may only not be changed is printed.
    tool('qpdf', '--encrypt', '', 'other', '256', '--', plain, join(work, 'unchanged.pdf'));
    const { sources } = await openPlotFiles([{ from: join(work, 'unchanged.pdf'), path: 'B.pdf' }]);
    expect(sources).toHaveLength(1);
    const none = written('none.pdf', Buffer.from('no PDF'));
    await expect(openPlotFiles([{ from: none, path: 'C.pdf' }])).rejects.toMatchObject({
      problem: { code: 'pdf.unreadable' },
    });
  });
});

/** How many dots the dark part of a picture (PGM, binary) is wide and high. */
function darkBox(pgm: Buffer): { width: number; height: number } {
  const [head, width] = /^P5\s+(\d+)\s+\d+\s+\d+\s/.exec(pgm.subarray(0, 40).toString('latin1'))!;
  const [columns, pixels] = [Number(width), pgm.subarray(head.length)];
  let [left, right, top, bottom] = [Infinity, -1, Infinity, -1];
  pixels.forEach((value, i) => {
    if (value > 127) return;
    const [x, y] = [i % columns, Math.floor(i / columns)];
    [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
  });
  return { width: right - left + 1, height: bottom - top + 1 };
}
