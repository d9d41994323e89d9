import * as client from 'openid-client';

/** How to reach an OpenID provider. */
export interface OpenIdSettings {
  /** What people know it by. */
  name: string;
  issuer: string;
  clientId: string;
  clientSecret: string;
}

/** What is kept of a sign-in until the provider answers. */
export interface OpenIdChecks {
  state: string;
  nonce: string;
  verifier: string;
}

/** A person, as the provider says. */
export interface OpenIdPerson {
  /** Issuer and subject. */
  openId: string;
  /** In lower case. */
  email: string | undefined;
  isVerified: boolean;
  name: string;
}

export interface OpenIdProvider {
  readonly name: string;
  /** The address to send a browser to, which comes back to another. */
  begin(returnTo: string): Promise<{ address: string; checks: OpenIdChecks }>;
  /** Who it is, from the address that the browser came back to. Rejects where the provider did not confirm it. */
  end(answer: URL, checks: OpenIdChecks): Promise<OpenIdPerson>;
}

const SCOPE = 'openid email profile';

export function openIdProvider({ name, issuer, clientId, clientSecret }: OpenIdSettings): OpenIdProvider {
  const address = new URL(issuer);
  // Only a stand-in on this machine is reached without TLS.
  const plain = address.protocol === 'http:' && ['127.0.0.1', 'localhost'].includes(address.hostname);
  let found: Promise<client.Configuration> | undefined;
  const configuration = (): Promise<client.Configuration> => {
    const options = plain ? { execute: [client.allowInsecureRequests] } : {};
    found ??= client.discovery(address, clientId, clientSecret, undefined, options).catch((error: unknown) => {
      // It is asked again the next time: it may only be away.
      found = undefined;
      throw error;
    });
    return found;
  };
  return {
    name,
    async begin(returnTo) {
      const checks = {
        state: client.randomState(),
        nonce: client.randomNonce(),
        verifier: client.randomPKCECodeVerifier(),
      };
      const url = client.buildAuthorizationUrl(await configuration(), {
        redirect_uri: returnTo,
        scope: SCOPE,
        state: checks.state,
        nonce: checks.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(checks.verifier),
        code_challenge_method: 'S256',
      });
      return { address: url.href, checks };
    },
    async end(answer, { state, nonce, verifier }) {
      const config = await configuration();
      const granted = await client.authorizationCodeGrant(config, answer, {
        ...{ expectedState: state, expectedNonce: nonce, pkceCodeVerifier: verifier, idTokenExpected: true },
      });
      const claims = granted.claims()!;
      // Providers may give the address only when they are asked for it (OpenID Connect Core 1.0, 5.4).
      const more = claims['email'] ? claims : await client.fetchUserInfo(config, granted.access_token, claims.sub);
      const { email, email_verified: verified, name: own } = more as Record<string, unknown>;
      return {
        openId: `${claims.iss} ${claims.sub}`,
        email: typeof email === 'string' ? email.toLowerCase() : undefined,
        isVerified: verified === true,
        name: typeof own === 'string' ? own : '',
      };
    },
  };
}
