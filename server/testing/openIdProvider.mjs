// A provider of sign-in for the tests, in a process of its own: whoever comes is the account that was named last.
import { createServer } from 'node:http';
import Provider from 'oidc-provider';

const { PROVIDER_PORT: port, PROVIDER_LEADS_TO: redirectUri } = process.env;
const issuer = `http://127.0.0.1:${port}`;
let person = { sub: 'nobody', email: 'nobody@wharfside.example', email_verified: true };

const provider = new Provider(issuer, {
  clients: [
    { client_id: 'emporikon', client_secret: 'a secret of the client', redirect_uris: [redirectUri] },
  ],
  claims: { openid: ['sub'], email: ['email', 'email_verified'] },
  features: { devInteractions: { enabled: false } },
  findAccount: (_ctx, id) => ({ accountId: id, claims: () => ({ ...person, sub: id }) }),
  interactions: { url: (_ctx, { uid }) => `/interaction/${uid}` },
  async loadExistingGrant({ oidc }) {
    const grant = new oidc.provider.Grant({
      clientId: oidc.client.clientId,
      accountId: oidc.session.accountId,
    });
    grant.addOIDCScope('openid email');
    await grant.save();
    return grant;
  },
});
const callback = provider.callback();
createServer(async (request, response) => {
  if (request.url?.startsWith('/person?')) {
    person = JSON.parse(new URL(request.url, issuer).searchParams.get('is') ?? '{}');
    return response.end('ok');
  }
  if (request.url?.startsWith('/interaction/')) {
    const isRefused = person.sub === 'refused';
    const result = isRefused
      ? { error: 'access_denied', error_description: 'not today' }
      : { login: { accountId: person.sub } };
    return provider.interactionFinished(request, response, result);
  }
  return callback(request, response);
}).listen(Number(port), '127.0.0.1', () => console.log('provider listening'));
