import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Mail } from '@folvex/core';
import { openDestination } from '../../src/destinations';
import type { MailPort } from '../../src/destinations/port';
import { probeTransfer } from '../../src/destinations/probe';
import type { TransferLogin } from '../../src/destinations/transfer-login';
import { sha256 } from '../../src/files/whole-file';
import { startMailServer, type MailPeer } from '../support/mail-peer';
import { ownFolder } from '../support/published';

const work = ownFolder();

function finished(path: string, content: string | Buffer) {
  const from = join(work, `finished-${sha256(content).slice(0, 8)}`);
  writeFileSync(from, content);
  return { from, hash: sha256(content), path };
}

/** Reads a mail with Python's own package `email`: names and SHA-256 of what is attached, and the first text. */
const READER = `
import email, email.policy, hashlib, json, sys
mail = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
print(json.dumps({
  'subject': mail['subject'],
  'to': mail['to'],
  'text': mail.get_body().get_content().replace('\\r\\n', '\\n'),
  'files': [[one.get_filename(), hashlib.sha256(one.get_payload(decode=True)).hexdigest()] for one in mail.iter_attachments()],
}))`;

describe.each([
  ['without TLS', false],
  ['with TLS', true],
])('mail %s', (_name, isSecure) => {
  let peer: MailPeer;
  beforeAll(async () => {
    peer = await startMailServer(join(work, String(isSecure)), { isSecure });
  });
  afterAll(() => peer.stop());

  const portTo = (changed: Partial<Mail> = {}, login: Partial<TransferLogin> = {}): Promise<MailPort> =>
    openDestination(
      {
        ...{ kind: 'mail', server: 'm', from: 'drafting@office.example', to: 'site@harbour.example' },
        ...{ subject: 'Ferry terminal, für die Prüfung', text: 'Dear all,\nthe plans.' },
        ...changed,
      },
      { deliveryFolder: work, transferServers: new Map([['m', { ...peer.login, ...login }]]) },
    );

  it('brings all files as they are, under a list of them', async () => {
    const pdf = Buffer.from(Array.from({ length: 300_000 }, (_, i) => (i * 7919) % 251));
    const files = [finished('Plans/Grundriß 1.pdf', pdf), finished('A-101.dwg.txt', 'one\r\n.two\n')];
    const outcomes = await (await portTo()).send('a1', files);
    expect(outcomes).toEqual([
      { path: 'Plans/Grundriß 1.pdf', how: 'mailed' },
      { path: 'A-101.dwg.txt', how: 'mailed' },
    ]);
    const { raw, parsed, to } = peer.mails.at(-1)!;
    expect(to).toEqual(['site@harbour.example']);
    expect(parsed.messageId).toBe('<a1@office.example>');
    expect(parsed.from!.text).toBe('drafting@office.example');
    expect(parsed.attachments.map(({ filename, content }) => [filename, sha256(content)])).toEqual([
      ['Grundriß 1.pdf', files[0]!.hash],
      ['A-101.dwg.txt', files[1]!.hash],
    ]);
    const read = JSON.parse(
      execFileSync('/usr/bin/python3', ['-c', READER], { input: raw, encoding: 'utf8' }),
    ) as object;
    expect(read).toEqual({
      subject: 'Ferry terminal, für die Prüfung',
      to: 'site@harbour.example',
      text: 'Dear all,\nthe plans.\n\nPlans/Grundriß 1.pdf (300 kB)\nA-101.dwg.txt (10 bytes)\n',
      files: [
        ['Grundriß 1.pdf', files[0]!.hash],
        ['A-101.dwg.txt', files[1]!.hash],
      ],
    });
  });

  it('tells files of the same name apart by their folders', async () => {
    const files = ['Permit/A-101.pdf', 'Tender/A-101.pdf', 'Tender/A-102.pdf'].map((path) => finished(path, path));
    await (await portTo()).send('a4', files);
    expect(peer.mails.at(-1)!.parsed.attachments.map(({ filename, content }) => [filename, String(content)])).toEqual([
      ['Permit - A-101.pdf', 'Permit/A-101.pdf'],
      ['Tender - A-101.pdf', 'Tender/A-101.pdf'],
      ['A-102.pdf', 'Tender/A-102.pdf'],
    ]);
  });

  it('is sent whole or not at all, within the size that is allowed', async () => {
    const before = peer.mails.length;
    // Base64 takes four characters for three bytes, and a line break after 76 of them (RFC 2045, 6.8).
    const most = finished('most.bin', Buffer.alloc(730_700, 7));
    const more = finished('more.bin', Buffer.alloc(730_800, 7));
    await (await portTo({ mostMb: 1 })).send('a2', [most]);
    expect(peer.mails).toHaveLength(before + 1);
    await expect((await portTo({ mostMb: 1 })).send('a3', [more])).rejects.toMatchObject({
      problem: {
        code: 'mail.size',
        sentence: expect.stringContaining('take 1.0 MB in an email, and the destination allows 1.0 MB') as string,
      },
    });
    expect(peer.mails).toHaveLength(before + 1);
  });

  it('has the link of a page in place of files that are too large, and nothing but the link where that is wanted', async () => {
    const page = { link: 'https://plans.office.example/files/x.y', until: '2026-12-15', hasPassword: true };
    const big = finished('Plans/most.bin', Buffer.alloc(730_800, 7));
    const enclosed = [finished('Transmittal 3.pdf', 'three')];
    const send = async (mail: Partial<Mail>, files: (typeof big)[], hasPassword = true) =>
      (await portTo(mail)).send('p1', files, { enclosed, page: () => Promise.resolve({ ...page, hasPassword }) });
    expect(await send({ mostMb: 1 }, [big])).toEqual([{ path: 'Plans/most.bin', how: 'on a page' }]);
    const { text, attachments } = peer.mails.at(-1)!.parsed;
    expect(attachments.map(({ filename }) => filename)).toEqual(['Transmittal 3.pdf']);
    expect(text).toBe(
      [
        'Dear all,\nthe plans.\n',
        `The files can be downloaded here until 2026-12-15:\n${page.link}\n`,
        'The page asks for a password; drafting@office.example has it.\n',
        'Plans/most.bin (731 kB)\n',
        'Attached:\nTransmittal 3.pdf (5 bytes)\n',
      ].join('\n'),
    );
    const small = finished('A.pdf', 'one');
    expect(await send({ mostMb: 1 }, [small])).toEqual([{ path: 'A.pdf', how: 'mailed' }]);
    expect(await send({ files: 'page' }, [small], false)).toEqual([{ path: 'A.pdf', how: 'on a page' }]);
    expect(peer.mails.at(-1)!.parsed.text).not.toContain('password');
    await expect((await portTo({ files: 'page' })).send('p2', [small])).rejects.toMatchObject({
      problem: { code: 'mail.page', sentence: expect.stringContaining('set FOLVEX_URL') as string },
    });
  });

  it('says who refuses it, and what is only for now', async () => {
    const file = finished('A.pdf', 'one');
    peer.replies.set('gone@harbour.example', { code: 550, text: 'no such mailbox' });
    peer.replies.set('busy@harbour.example', { code: 450, text: 'try again later' });
    await expect((await portTo({ to: 'gone@harbour.example' })).send('b1', [file])).rejects.toMatchObject({
      problem: {
        code: 'mail.refused',
        sentence:
          'Peer refused the email to gone@harbour.example (550 no such mailbox); check the addresses, or ask its operator.',
      },
    });
    await expect((await portTo({ to: 'busy@harbour.example' })).send('b2', [file])).rejects.toMatchObject({
      step: 'connection',
      sentence: 'Peer does not take emails now (450 try again later).',
    });
    await expect((await portTo({}, { secret: 'wrong' })).send('b3', [file])).rejects.toMatchObject({
      step: 'sign-in',
      sentence: expect.stringMatching(/^Peer refused to sign in harbour /) as string,
    });
  });

  it('has a server that is tested step by step, and gets no mail by that', async () => {
    const before = peer.mails.length;
    const steps = await probeTransfer(peer.login);
    expect(steps.map(({ name, ok }) => [name, ok])).toEqual([
      ['name', true],
      ['connection', true],
      ...(isSecure ? [['certificate', true]] : []),
      ['sign-in', true],
    ]);
    expect(steps.at(-1)!.sentence).toBe(
      `Signed in as harbour.${isSecure ? '' : ' Nothing is encrypted: passwords and drawings can be read on the way.'}`,
    );
    expect((await probeTransfer({ ...peer.login, secret: 'wrong' })).at(-1)).toMatchObject({
      name: 'sign-in',
      ok: false,
    });
    expect(peer.mails).toHaveLength(before);
  });

  it('that nobody knows to have been taken is the same one when it is sent again', async () => {
    const file = finished('A.pdf', 'one');
    const before = peer.mails.length;
    peer.breaks = 1;
    await expect((await portTo()).send('c1', [file])).rejects.toMatchObject({ step: 'connection' });
    await (await portTo()).send('c1', [file]);
    const ids = peer.mails.slice(before).map(({ parsed }) => parsed.messageId);
    expect(ids).toEqual(['<c1@office.example>', '<c1@office.example>']);
  });
});

describe('a mail server that nobody signs in to', () => {
  it('is used without a user, and with one says that it knows none, which another attempt would not change', async () => {
    const peer = await startMailServer(join(work, 'open'), { asksForUser: false });
    const file = finished('A.pdf', 'one');
    const send = async (login: TransferLogin): Promise<unknown> => {
      const port = await openDestination(
        { kind: 'mail', server: 'm', from: 'a@b.example', to: 'c@d.example', subject: 's' },
        { deliveryFolder: work, transferServers: new Map([['m', login]]) },
      );
      return port.send('e1', [file]);
    };
    await expect(send(peer.login)).rejects.toMatchObject({ step: 'sign-in' });
    expect((await probeTransfer(peer.login)).at(-1)).toMatchObject({ name: 'sign-in', ok: false });
    await expect(send({ ...peer.login, user: '', secret: '' })).resolves.toEqual([{ path: 'A.pdf', how: 'mailed' }]);
    await peer.stop();
  });
});

describe('a mail server whose certificate nobody vouches for', () => {
  let peer: MailPeer;
  beforeAll(async () => {
    peer = await startMailServer(join(work, 'certificate'), { isSecure: true });
  });
  afterAll(() => peer.stop());

  it('is shown with its fingerprint, and neither signed in to nor mailed by until that is accepted', async () => {
    for (const fingerprint of [null, 'SHA256:another']) {
      const login = { ...peer.login, fingerprint };
      expect((await probeTransfer(login)).at(-1)).toMatchObject({
        ...{ name: 'certificate', ok: false, fingerprint: peer.login.fingerprint },
      });
      const port = await openDestination(
        { kind: 'mail', server: 'm', from: 'a@b.example', to: 'c@d.example', subject: 's' },
        { deliveryFolder: work, transferServers: new Map([['m', login]]) },
      );
      await expect(port.send('d1', [finished('A.pdf', 'one')])).rejects.toMatchObject({ step: 'certificate' });
    }
    expect(peer.mails).toEqual([]);
  });

  it('is not taken for one without TLS, nor one without TLS for it', async () => {
    const plain = await startMailServer(join(work, 'plain'));
    const steps = await probeTransfer({ ...plain.login, address: plain.login.address.replace('smtp:', 'smtps:') });
    expect(steps.at(-1)).toMatchObject({ name: 'connection', ok: false });
    await plain.stop();
  });

  it('is not there for files, nor a server of files for mails', async () => {
    const transferServers = new Map([
      ['m', peer.login],
      ['f', { ...peer.login, address: 'ftp://127.0.0.1' }],
    ]);
    const context = { deliveryFolder: work, transferServers };
    await expect(
      openDestination({ kind: 'server', server: 'm', folder: '', onConflict: 'stop' }, context),
    ).rejects.toThrow(/transfer server of this package is not set up/);
    await expect(
      openDestination({ kind: 'mail', server: 'f', from: 'a@b.example', to: 'c@d.example', subject: 's' }, context),
    ).rejects.toThrow(/mail server of this package is not set up/);
  });
});
