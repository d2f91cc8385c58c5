import type { Reply, RouteName } from '@emporikon/contract';
import type { Account } from './store';

/** The program does not answer, in contrast to answering no. */
export class Unreachable extends Error {}
/** The program said no; its words are for the rep. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

interface Given {
  params?: Record<string, string>;
  query?: Record<string, string>;
  body?: unknown;
  html?: string;
  key?: string;
}

/** Calls one route of the contract with the rep's access token; no cookie goes along. */
export async function call<Name extends RouteName>(
  { server, token }: Account,
  name: Name,
  { params = {}, query = {}, body, html, key }: Given = {},
): Promise<Reply<Name>> {
  const [method = 'GET', path = '/'] = name.split(' ');
  const url = new URL(
    path.replace(/:(\w+)/g, (_, one: string) => encodeURIComponent(params[one] ?? '')),
    server,
  );
  for (const [one, value] of Object.entries(query)) url.searchParams.set(one, value);
  const response = await fetch(url, {
    method,
    credentials: 'omit',
    headers: {
      authorization: `Bearer ${token}`,
      ...(html === undefined
        ? body === undefined
          ? {}
          : { 'content-type': 'application/json' }
        : { 'content-type': 'text/html' }),
      ...(method === 'POST' ? { 'idempotency-key': key ?? crypto.randomUUID() } : {}),
    },
    ...(html === undefined ? (body === undefined ? {} : { body: JSON.stringify(body) }) : { body: html }),
  }).catch(() => {
    throw new Unreachable('Emporikon does not answer.');
  });
  const answer = (await response.json().catch(() => ({}))) as { detail?: string };
  if (response.status >= 502) throw new Unreachable('Emporikon does not answer.');
  if (!response.ok)
    throw new Refused(answer.detail ?? `Emporikon answered ${response.status}.`, response.status);
  return answer as Reply<Name>;
}
