import { request as httpRequest, type IncomingMessage } from 'node:http';
import { request as httpsRequest } from 'node:https';
import { isIP } from 'node:net';
import robotsParser from 'robots-parser';
import { invalid } from '../http/problems';
import { findAddress, isAllowedHost, type Door } from './door';
import { mustHoldNoConnection } from '../db/connect';

export interface FetchedPage {
  url: string;
  html: Buffer;
}

const MOST_BYTES = 5 * 1024 * 1024;
const MOST_REDIRECTS = 5;
const TIMEOUT_MS = 10_000;
const AGENT = 'EmporikonReader';

const refuse = (why: string): Error =>
  invalid(`${why} Nothing was fetched.`, { fields: { url: 'cannot be fetched' } });

interface Target {
  url: URL;
  address: string;
}

/** Decides whether a URL may be fetched, and at which address. */
async function check(text: string, door: Door): Promise<Target> {
  if (!URL.canParse(text)) throw refuse('That is not a web address.');
  const url = new URL(text);
  if (url.protocol !== 'http:' && url.protocol !== 'https:')
    throw refuse('Only http and https pages are fetched.');
  if (url.username || url.password) throw refuse('An address with a password in it is not fetched.');
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const port = url.port || (url.protocol === 'https:' ? '443' : '80');
  if (!(await isAllowedHost(host, Number(port), door)) && !['80', '443', '8080', '8443'].includes(port))
    throw refuse(`Port ${port} is not one of the web.`);
  const address = await findAddress(host, Number(port), door);
  if (!address) throw refuse(`${host} cannot be found, or is not on the open internet.`);
  return { url, address };
}

function get({ url, address }: Target, most: number): Promise<{ response: IncomingMessage; body: Buffer }> {
  return new Promise((resolve, reject) => {
    const send = url.protocol === 'https:' ? httpsRequest : httpRequest;
    const request = send(
      {
        host: address,
        servername: isIP(url.hostname) ? undefined : url.hostname,
        port: url.port || undefined,
        path: `${url.pathname}${url.search}`,
        headers: {
          host: url.host,
          'user-agent': AGENT,
          accept: 'text/html,application/xhtml+xml;q=0.9',
          'accept-encoding': 'identity',
        },
        timeout: TIMEOUT_MS,
        signal: AbortSignal.timeout(TIMEOUT_MS),
      },
      (response) => {
        const chunks: Buffer[] = [];
        let size = 0;
        response.on('data', (chunk: Buffer) => {
          size += chunk.length;
          if (size > most) {
            request.destroy();
            reject(refuse(`The page is larger than ${most / 1024 / 1024} MB.`));
          } else chunks.push(chunk);
        });
        response.on('end', () => resolve({ response, body: Buffer.concat(chunks) }));
        response.on('error', reject);
      },
    );
    request.on('timeout', () => request.destroy(new Error('timeout')));
    request.on('error', reject);
    request.end();
  });
}

async function reach(target: Target, most = MOST_BYTES): ReturnType<typeof get> {
  try {
    return await get(target, most);
  } catch (error) {
    if (error instanceof Error && 'problem' in error) throw error;
    const slow = error instanceof Error && /abort|timeout/i.test(`${error.name} ${error.message}`);
    throw refuse(
      slow
        ? `${target.url.host} did not answer within ${TIMEOUT_MS / 1000} seconds.`
        : `${target.url.host} cannot be reached.`,
    );
  }
}

/** Whether a site's robots.txt lets us read a page (RFC 9309); a site without one lets everybody. */
async function isWelcome(target: Target, door: Door): Promise<boolean> {
  const robots = new URL('/robots.txt', target.url);
  const { response, body } = await reach(await check(robots.href, door), 512 * 1024);
  const status = response.statusCode ?? 0;
  if (status >= 500) return false;
  if (status !== 200) return true;
  return robotsParser(robots.href, body.toString('utf8')).isAllowed(target.url.href, AGENT) !== false;
}

/**
 * Fetches one page for a person. Private and loopback addresses are refused but for the stand-ins, each redirect is
 * checked anew, and size, time and robots.txt are respected.
 * @throws 422 saying why it was not fetched
 */
export async function fetchPage(address: string, door: Door): Promise<FetchedPage> {
  mustHoldNoConnection('a page');
  let at = /^[a-z][a-z0-9+.-]*:/i.test(address) ? address : `https://${address}`;
  for (let hop = 0; hop <= MOST_REDIRECTS; hop++) {
    const target = await check(at, door);
    if (!(await isWelcome(target, door)))
      throw refuse(`${target.url.host} asks programs not to read this page.`);
    const { response, body } = await reach(target);
    const status = response.statusCode ?? 0;
    const { location } = response.headers;
    if (status >= 300 && status < 400 && location && URL.canParse(location, target.url)) {
      at = new URL(location, target.url).href;
      continue;
    }
    if (status !== 200) throw refuse(`${target.url.host} answered ${status}.`);
    if (!/html|xml/i.test(response.headers['content-type'] ?? 'text/html'))
      throw refuse('That is not a web page.');
    return { url: target.url.href, html: body };
  }
  throw refuse('The page leads from one address to the next without end.');
}
