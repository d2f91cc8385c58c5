import type { In, Reply, RouteName } from '@emporikon/contract';
import { answerAt, forgetAnswers } from './answers';
import type { Problem } from '@emporikon/contract/common';

/** What the server said no to, or that it could not be reached. */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get isStale(): boolean {
    return this.problem.type === 'urn:emporikon:problem:stale';
  }
}

type Given<Name extends RouteName> = (In<Name, 'params'> extends undefined
  ? object
  : { params: In<Name, 'params'> }) & {
  query?: In<Name, 'query'>;
  body?: In<Name, 'body'>;
  raw?: { data: Blob | string; type: string };
  key?: string;
  /** Sent even when the page is closed meanwhile. */
  keepalive?: boolean;
};

const unreachable: Problem = {
  type: 'urn:emporikon:problem:unreachable',
  title: 'Not reached',
  status: 0,
  detail: 'The server does not answer. What you typed is still here; try again in a moment.',
};

function address(path: string, params: Record<string, unknown>, query: Record<string, unknown>): string {
  const filled = path.replace(/:(\w+)/g, (_, key: string) => encodeURIComponent(String(params[key])));
  const search = new URLSearchParams(
    Object.entries(query).flatMap(([key, value]) =>
      value === undefined || value === null || value === '' ? [] : [[key, String(value)]],
    ),
  );
  return search.size ? `${filled}?${search}` : filled;
}

/** What is posted and changes nothing. */
const READING: ReadonlySet<RouteName> = new Set<RouteName>([
  'POST /api/composer',
  'POST /api/looks',
  'PUT /api/presence/:id',
  'POST /api/fit-rules/preview',
  'POST /api/merges/compare',
  'POST /api/queries',
  'POST /api/queries/map',
  'POST /api/queries/nearest',
  'POST /api/queries/totals',
  'POST /api/queries/words',
  'PUT /api/views/:id/last',
]);

/** Whether somebody is still signed in, and how far work in the background is: no event tells that it changed. */
const ALWAYS_ASKED: ReadonlySet<string> = new Set([
  '/api/session',
  '/api/session/second-step',
  '/api/exports',
  '/api/exports/:id',
  '/api/bulk-changes/:id',
  '/api/letters/:id',
  '/api/letters/:id/preview',
]);

/**
 * Calls one route of the contract.
 * @param name method and path, e.g. `GET /api/people/:id`
 * @throws ApiProblem with the server's own words
 */
export async function api<Name extends RouteName>(
  name: Name,
  ...[given]: In<Name, 'params'> extends undefined ? [Given<Name>?] : [Given<Name>]
): Promise<Reply<Name>> {
  const [method = 'GET', path = '/'] = name.split(' ');
  const {
    params = {},
    query = {},
    body,
    raw,
    key,
    keepalive = false,
  } = (given ?? {}) as {
    params?: Record<string, unknown>;
    query?: Record<string, unknown>;
    body?: unknown;
    raw?: { data: Blob | string; type: string };
    key?: string;
    keepalive?: boolean;
  };
  const headers: Record<string, string> = {};
  if (raw) headers['content-type'] = raw.type;
  else if (body !== undefined) headers['content-type'] = 'application/json';
  if (method === 'POST') headers['idempotency-key'] = key ?? crypto.randomUUID();
  const at = address(path, params, query);
  const ask = async (): Promise<Reply<Name>> => {
    const response = await fetch(at, {
      method,
      headers,
      keepalive,
      body: raw ? raw.data : body === undefined ? undefined : JSON.stringify(body),
    }).catch(() => {
      throw new ApiProblem(unreachable);
    });
    const answer: unknown = await response.json().catch(() => unreachable);
    if (!response.ok) throw new ApiProblem(answer as Problem);
    return answer as Reply<Name>;
  };
  if (method === 'GET') return ALWAYS_ASKED.has(path) ? ask() : answerAt(at, ask);
  return READING.has(name) ? ask() : ask().finally(forgetAnswers);
}

/** What to tell a person about an error. */
export const wordsOf = (error: unknown): string =>
  error instanceof ApiProblem
    ? error.problem.detail
    : error instanceof Error
      ? error.message
      : 'Something went wrong.';
