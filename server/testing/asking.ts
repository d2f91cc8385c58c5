import type { Kept } from './families';
import type { Client } from './harness';

interface Operation {
  path: string;
  params: string[];
  query: string[];
}

/** Every GET of the OpenAPI document but the stream. */
export async function readOperations(anonymous: Client): Promise<Operation[]> {
  const { body } = await anonymous.call('GET /api/openapi.json' as 'GET /api/session');
  const { paths } = body as unknown as {
    paths: Record<string, { get?: { parameters?: { name: string; in: string }[] } }>;
  };
  return Object.entries(paths).flatMap(([path, { get }]) =>
    get && path !== '/api/events'
      ? {
          path,
          params: [...path.matchAll(/\{(\w+)\}/g)].map(([, name = '']) => name),
          query: (get.parameters ?? []).flatMap((parameter) =>
            parameter.in === 'query' ? parameter.name : [],
          ),
        }
      : [],
  );
}

/** What the ways of asking name: each record in turn as the id, as a filter, and as the words sought. */
export function* requestsFor({ path, params, query }: Operation, about: readonly Kept[]): Generator<string> {
  const fill = (kind: string, id: string): string =>
    path.replace(/\{(\w+)\}/g, (_, name: string) =>
      name === 'kind' ? kind : name === 'position' ? '0' : id,
    );
  const filters = query.filter((name) =>
    /id$|^ids$|^(?:person|company|lead|deal|owner|q|line|table)$/i.test(name),
  );
  if (!params.length) yield path;
  for (const { kind, id, secrets } of about) {
    if (params.length) yield fill(kind, id);
    if (query.includes('table'))
      yield `${path}?table=${kind === 'ledger' ? 'ledger_entries' : kind}&id=${id}`;
    for (const name of filters)
      for (const value of name === 'q' || name === 'line' ? secrets : [id])
        yield `${params.length ? fill(kind, id) : path}?${name}=${value}${name === 'ids' ? `,${about[0]?.id ?? ''}` : ''}`;
  }
}

/** What is answered, in lower case. @throws where the server failed */
export async function textOf(client: Client, url: string): Promise<string> {
  const response = await client.raw('GET', url);
  if (response.status >= 500) throw new Error(`${url}: ${response.status} ${response.text}`);
  return response.text.toLowerCase();
}
