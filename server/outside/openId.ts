import * as openid from 'openid-client';

/** What a sign-in that was begun is finished with; it is kept by the browser, sealed. */
export interface Begun {
  verifier: string;
  state: string;
  nonce: string;
}

/** Who a provider says somebody is. */
export interface Identity {
  issuer: string;
  subject: string;
  /** Only an address that the provider has verified. */
  email: string | null;
}

/** A provider of sign-in: OpenID Connect Core 1.0, authorization code flow with PKCE (RFC 7636). */
export interface OpenId {
  /** What it is called on the sign-in page. */
  name: string;
  /** @returns where the browser goes, and what the sign-in is finished with */
  begin(redirectUri: string): Promise<{ url: string; begun: Begun }>;
  /** @throws where the answer is not one to what was begun, or the provider says no */
  finish(answer: URL, begun: Begun): Promise<Identity>;
}

export interface OpenIdSettings {
  issuer: string;
  clientId: string;
  clientSecret: string;
  name: string;
}

const TIMEOUT_SECONDS = 10;
/** So long what a provider publishes of itself is taken as it was read. */
const KNOWN_MS = 3_600_000;
const LOOPBACK = new Set(['127.0.0.1', 'localhost', '[::1]']);

export function openOpenId({ issuer, clientId, clientSecret, name }: OpenIdSettings): OpenId {
  const server = new URL(issuer);
  const isLoopback = LOOPBACK.has(server.hostname);
  if (server.protocol !== 'https:' && !isLoopback)
    throw new Error('OIDC_ISSUER must begin with https:// unless it is on this machine.');
  let known: { config: openid.Configuration; until: number } | null = null;

  async function discover(): Promise<openid.Configuration> {
    if (known && known.until > Date.now()) return known.config;
    const config = await openid.discovery(server, clientId, clientSecret, undefined, {
      timeout: TIMEOUT_SECONDS,
      ...(isLoopback ? { execute: [openid.allowInsecureRequests] } : {}),
    });
    known = { config, until: Date.now() + KNOWN_MS };
    return config;
  }

  return {
    name,
    async begin(redirectUri) {
      const config = await discover();
      const begun = {
        verifier: openid.randomPKCECodeVerifier(),
        state: openid.randomState(),
        nonce: openid.randomNonce(),
      };
      const url = openid.buildAuthorizationUrl(config, {
        redirect_uri: redirectUri,
        scope: 'openid email',
        code_challenge: await openid.calculatePKCECodeChallenge(begun.verifier),
        code_challenge_method: 'S256',
        state: begun.state,
        nonce: begun.nonce,
      });
      return { url: url.href, begun };
    },
    async finish(answer, { verifier, state, nonce }) {
      const config = await discover();
      const tokens = await openid.authorizationCodeGrant(config, answer, {
        pkceCodeVerifier: verifier,
        expectedState: state,
        expectedNonce: nonce,
        idTokenExpected: true,
      });
      const claims = tokens.claims();
      if (!claims) throw new Error('The provider sent no ID token.');
      const { email, email_verified: isVerified } =
        claims.email === undefined
          ? await openid.fetchUserInfo(config, tokens.access_token, claims.sub)
          : claims;
      const known = typeof email === 'string' && isVerified === true ? email.toLowerCase() : null;
      return { issuer: claims.iss, subject: claims.sub, email: known };
    },
  };
}
