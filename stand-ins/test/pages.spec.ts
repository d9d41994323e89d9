import { createConnection } from 'node:net';
import { startMailbox } from '../src/mailbox';
import { startPlotter } from '../src/plotter';

/** Sends an email as RFC 5321 has it, a line at a time; resolves with the codes of the replies. */
function send(port: number, to: string, message: readonly string[]): Promise<string> {
  const lines = [
    'EHLO a',
    'MAIL FROM:<a@b.example>',
    `RCPT TO:<${to}>`,
    'DATA',
    [...message, '.'].join('\r\n'),
    'QUIT',
  ];
  return new Promise((resolve, reject) => {
    const codes: string[] = [];
    const socket = createConnection(port, '127.0.0.1');
    socket.on('error', reject);
    socket.on('data', (data) => {
      // The last line of a reply has a blank after its code.
      for (const [, code] of data.toString().matchAll(/^(\d{3}) /gm)) {
        codes.push(code!);
        const next = lines.shift();
        if (next !== undefined) socket.write(`${next}\r\n`);
      }
    });
    socket.on('close', () => resolve(codes.join(' ')));
  });
}

describe('the mailbox', () => {
  it('keeps what it takes, shows it as text only, and refuses those who are gone', async () => {
    const mailbox = await startMailbox();
    const port = Number(new URL(mailbox.address).port);
    const message = ['Subject: Plans <b>', 'To: site@harbour.example', '', 'https://plans.example/files/x'];
    expect(await send(port, 'site@harbour.example', message)).toBe('220 250 250 250 354 250 221');
    expect(await send(port, 'gone@harbour.example', message)).toMatch(/^220 250 250 550/);
    expect(mailbox.mails.map(({ subject }) => subject)).toEqual(['Plans <b>']);
    const page = await (await fetch(mailbox.page)).text();
    expect(page).toContain('<h2>Plans &#60;b&#62;</h2>');
    expect(page).toContain('<a href="https://plans.example/files/x">');
    expect((await fetch(`${mailbox.page}0/0`)).status).toBe(404);
    await mailbox.stop();
  });
});

describe('the page of the plotter', () => {
  it('shows its paper and its queue, and acts at the plotter', async () => {
    const plotter = await startPlotter({ name: 'Plot <room>', media: [{ kind: 'roll', width: 610, leftMm: 500 }] });
    const at = `http://127.0.0.1:${new URL(plotter.address.replace('ipp:', 'http:')).port}`;
    const post = (path: string, body = '') =>
      fetch(`${at}${path}`, { method: 'POST', body: new URLSearchParams(body) });
    const job = {
      name: 'Permit',
      user: 'u',
      width: 610,
      length: 841,
      pieces: 1,
      isGrey: false,
      pdf: Buffer.from('%PDF'),
    };
    const waiting = plotter.queue.add(job);
    const page = async (): Promise<string> => (await fetch(at)).text();
    expect(await page()).toContain('<h1>Plot &#60;room&#62;: stopped (media-empty-error)</h1>');
    await post('/load', 'media=610');
    expect(waiting.state).toBe('completed');
    expect(await page()).toContain('610 × 841 mm, 1 of them');
    expect(await (await fetch(`${at}/jobs/1.pdf`)).text()).toBe('%PDF');
    await post('/pause');
    const second = plotter.queue.add(job);
    await post('/cancel', 'job=2');
    expect([plotter.queue.isPaused, second.state]).toEqual([true, 'canceled']);
    expect((await fetch(`${at}/else`)).status).toBe(404);
    await plotter.stop();
  });
});
