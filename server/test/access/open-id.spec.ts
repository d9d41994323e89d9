import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Express } from 'express';
import Provider from 'oidc-provider';
import { path, ROUTES } from '@folvex/contract';
import { openIdProvider } from '../../src/work/access/open-id';
import { useServer } from '../support/harness';
import { browserOf, colleague, officeApp } from '../support/office';

const server = useServer();
const [CLIENT, SECRET] = ['folvex', 'a secret of the tests'];
const ending: Server[] = [];
afterAll(() => {
  for (const one of ending) {
    one.closeAllConnections();
    one.close();
  }
});

function listening(app: Express | ((...given: never[]) => void)): Promise<{ address: string; server: Server }> {
  return new Promise((resolve) => {
    const started = createServer(app as never);
    ending.push(started);
    started.listen(0, '127.0.0.1', () =>
      resolve({ address: `http://127.0.0.1:${(started.address() as AddressInfo).port}`, server: started }),
    );
  });
}

/** A browser that keeps cookies by origin and follows redirects; answers where it ended. */
function browser() {
  const cookies = new Map<string, Map<string, string>>();
  return async (
    from: string,
    form?: Record<string, string>,
  ): Promise<{ url: string; status: number; text: string }> => {
    let url = from;
    for (let hops = 0; hops < 20; hops++) {
      const { origin } = new URL(url);
      const own = cookies.get(origin) ?? new Map<string, string>();
      cookies.set(origin, own);
      const answer: Response = await fetch(url, {
        redirect: 'manual',
        headers: { Cookie: [...own].map(([name, value]) => `${name}=${value}`).join('; ') },
        ...(form && hops === 0 && { method: 'POST', body: new URLSearchParams(form) }),
      });
      for (const line of answer.headers.getSetCookie()) {
        const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!;
        own.set(name!, value!);
      }
      const next = answer.headers.get('location');
      if (next === null) return { url, status: answer.status, text: await answer.text() };
      url = new URL(next, url).href;
    }
    throw new Error('redirected for ever');
  };
}

/** A provider (oidc-provider, certified by the OpenID Foundation) that lets in whoever says an address, and an office that trusts it. */
async function office(person: { verified: boolean }) {
  const app: { handle?: (...given: never[]) => void } = {};
  const ours = await listening((...given: never[]) => app.handle!(...given));
  const back = `${ours.address}${ROUTES.openIdReturn}`;
  const found: { handle?: (...given: never[]) => void } = {};
  const theirs = await listening((...given: never[]) => found.handle!(...given));
  const provider = new Provider(theirs.address, {
    clients: [{ client_id: CLIENT, client_secret: SECRET, redirect_uris: [back] }],
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name'] },
    findAccount: (_context: unknown, id: string) => ({
      accountId: id,
      claims: () => ({ sub: id, email: id, email_verified: person.verified, name: `Name of ${id}` }),
    }),
  });
  found.handle = provider.callback() as never;
  const openId = openIdProvider({
    name: 'Office login',
    issuer: theirs.address,
    clientId: CLIENT,
    clientSecret: SECRET,
  });
  app.handle = officeApp(server, { url: ours.address, openId }) as never;
  /** Signs in as an address, and says what the browser ends at. */
  const signIn = async (as: string) => {
    const go = browser();
    let at = await go(`${ours.address}${ROUTES.openId}`);
    // Two forms of the provider: who one is, and that it may be told.
    for (let forms = 0; forms < 2 && at.text.includes('<form'); forms++) {
      const [, action] = /<form[^>]*action="([^"]+)"/.exec(at.text)!;
      const [, prompt] = /name="prompt" value="(\w+)"/.exec(at.text)!;
      at = await go(new URL(action!, at.url).href, { prompt: prompt!, login: as, password: 'any' });
    }
    const session = JSON.parse((await go(`${ours.address}${ROUTES.session}`)).text) as { account: unknown };
    return { at, account: session.account };
  };
  return { ours, signIn };
}

describe('signing in by an OpenID provider', () => {
  it('finds the account of an address, and then the account of the person whatever their address', async () => {
    const { ours, signIn } = await office({ verified: true });
    await colleague(server, 'Ada', { roles: { [server.project]: 'reader' } });
    const { at, account } = await signIn('ada@office.example');
    expect(at.url).toBe(`${ours.address}/`);
    expect(account).toMatchObject({ name: 'Ada', email: 'ada@office.example' });
    expect((await signIn('ada@office.example')).account).toMatchObject({ name: 'Ada' });
  });

  it('makes an account from invitations, and refuses whoever has none', async () => {
    const { signIn } = await office({ verified: true });
    const { project } = server;
    const lead = await browserOf(officeApp(server), await colleague(server, 'Lead', { roles: { [project]: 'lead' } }));
    await lead
      .post(path(ROUTES.members, { project }))
      .send({ email: 'bo@office.example', role: 'drafter' })
      .expect(200);
    expect((await signIn('bo@office.example')).account).toMatchObject({ name: 'Name of bo@office.example' });
    const stranger = await signIn('eve@elsewhere.example');
    expect([stranger.at.status, stranger.account]).toEqual([403, null]);
    expect(stranger.at.text).toContain('eve@elsewhere.example has not been invited');
  });

  it('does not believe an address that the provider has not checked', async () => {
    const { signIn } = await office({ verified: false });
    await colleague(server, 'Cleo');
    const { at, account } = await signIn('cleo@office.example');
    expect([at.status, account]).toEqual([403, null]);
  });

  it('refuses an answer that it did not ask for', async () => {
    const { ours } = await office({ verified: true });
    const { status, text } = await browser()(`${ours.address}${ROUTES.openIdReturn}?code=x&state=y`);
    expect([status, text]).toEqual([403, expect.stringContaining('start again')]);
  });
});
