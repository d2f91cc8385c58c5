import { request as httpRequest } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP } from 'node:net';
import { registrableDomain } from '@emporikon/core/people/emails';
import { mustHoldNoConnection } from '../db/connect';
import { findAddress, isAllowedHost, type Door } from './door';

const MOST_BYTES = 8 * 1024 * 1024;
const TIMEOUT_MS = 20_000;
const NO_BODY = new Set([101, 204, 205, 304]);

/** A server that is not there, is too slow, or says what makes no sense; the words are for people. */
export class DavTrouble extends Error {}

/** A server that is there and does not take one file; others may go through. */
export class DavRefusal extends DavTrouble {}

const siteOf = (host: string): string => registrableDomain(host) ?? host;

/**
 * A `fetch` for one account of a calendar or address book server. A name and password are sent only to the site they were
 * given for, wherever its answers lead, and never in the clear but to a server that an admin allowed.
 */
export function davFetch(account: { url: string; username: string; password: string }, door: Door) {
  const home = new URL(account.url);
  const authorization = `Basic ${Buffer.from(`${account.username}:${account.password}`).toString('base64')}`;

  return async (input: string | URL | Request, init: RequestInit = {}): Promise<Response> => {
    mustHoldNoConnection('a calendar server');
    const url = new URL(input instanceof Request ? input.url : input);
    const host = url.hostname.replace(/^\[|\]$/g, '');
    const port = Number(url.port || (url.protocol === 'https:' ? 443 : 80));
    if (siteOf(url.hostname) !== siteOf(home.hostname))
      throw new DavTrouble(
        `${home.host} leads to ${url.host}, which is another site. Nothing was sent there.`,
      );
    if (url.protocol !== 'https:' && !(url.protocol === 'http:' && (await isAllowedHost(host, port, door))))
      throw new DavTrouble(
        'The address has to begin with https://, so that the password is not sent in the clear.',
      );
    const address = await findAddress(host, port, door);
    if (!address) throw new DavTrouble(`${url.host} cannot be found, or is not on the open internet.`);
    const headers = Object.fromEntries(new Headers(init.headers));
    return new Promise<Response>((resolve, reject) => {
      const fail = (error: Error): void => {
        const isSlow = /timeout/i.test(`${error.name} ${error.message}`);
        reject(
          new DavTrouble(
            isSlow
              ? `${url.host} did not answer within ${TIMEOUT_MS / 1000} seconds.`
              : `${url.host} cannot be reached.`,
          ),
        );
      };
      const send = url.protocol === 'https:' ? httpsRequest : httpRequest;
      const request = send(
        {
          host: address,
          servername: isIP(host) ? undefined : host,
          port,
          path: `${url.pathname}${url.search}`,
          method: init.method ?? 'GET',
          headers: { ...headers, host: url.host, authorization, 'user-agent': 'Emporikon' },
          signal: AbortSignal.timeout(TIMEOUT_MS),
        },
        (response) => {
          const chunks: Buffer[] = [];
          let size = 0;
          response.on('data', (chunk: Buffer) => {
            size += chunk.length;
            if (size > MOST_BYTES) {
              request.destroy();
              reject(new DavTrouble(`${url.host} sent more than ${MOST_BYTES / 1024 / 1024} MB at once.`));
            } else chunks.push(chunk);
          });
          response.on('error', fail);
          response.on('end', () => {
            const status = response.statusCode ?? 500;
            const sent = Object.entries(response.headers).flatMap(([name, value]) =>
              value === undefined ? [] : [[name, String(value)] as [string, string]],
            );
            const body = NO_BODY.has(status) ? null : Buffer.concat(chunks);
            resolve(new Response(body, { status, statusText: response.statusMessage ?? '', headers: sent }));
          });
        },
      );
      request.on('error', fail);
      request.end(typeof init.body === 'string' ? init.body : undefined);
    });
  };
}
