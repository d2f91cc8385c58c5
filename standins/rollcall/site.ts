import Fastify, { type FastifyInstance } from 'fastify';
import { companyPage, listPage, messagesPage, profilePage } from './pages';
import { MEMBERS, threadWith, type Said } from './people';

export interface Site {
  port: number;
  stop(): Promise<void>;
}

/** Rollcall, the made-up professional directory: profiles, companies, a list to search, and threads of messages. */
export async function openRollcall(host: string, port: number): Promise<Site> {
  const app: FastifyInstance = Fastify();
  const threads = new Map<string, Said[]>();
  let base = `http://${host}:${port}`;
  const html = (text: string | null): { code: number; text: string } =>
    text === null
      ? { code: 404, text: '<!doctype html><title>Not here</title><h1>Not here</h1>' }
      : { code: 200, text };
  app.addContentTypeParser(
    'application/x-www-form-urlencoded',
    { parseAs: 'string' },
    (_request, body, done) => done(null, Object.fromEntries(new URLSearchParams(String(body)))),
  );
  const memberOf = (slug: string) => MEMBERS.find((one) => one.slug === slug);
  const threadOf = (slug: string): Said[] => {
    const member = memberOf(slug);
    const known = threads.get(slug) ?? (member ? threadWith(member) : []);
    threads.set(slug, known);
    return known;
  };
  app.get('/robots.txt', (_request, reply) =>
    reply.type('text/plain').send('User-agent: *\nDisallow: /private/\n'),
  );
  app.get('/', (_request, reply) => reply.type('text/html; charset=utf-8').send(listPage(MEMBERS, '', base)));
  app.get<{ Querystring: { q?: string } }>('/people', (request, reply) =>
    reply.type('text/html; charset=utf-8').send(listPage(MEMBERS, String(request.query.q ?? ''), base)),
  );
  app.get<{ Params: { slug: string } }>('/people/:slug', (request, reply) => {
    const member = memberOf(request.params.slug);
    const { code, text } = html(member ? profilePage(member, base) : null);
    return reply.code(code).type('text/html; charset=utf-8').send(text);
  });
  app.get<{ Params: { name: string } }>('/companies/:name', (request, reply) => {
    const known = MEMBERS.some((one) => one.company === request.params.name);
    const { code, text } = html(known ? companyPage(request.params.name, MEMBERS, base) : null);
    return reply.code(code).type('text/html; charset=utf-8').send(text);
  });
  app.get<{ Params: { slug: string } }>('/messages/:slug', (request, reply) => {
    const member = memberOf(request.params.slug);
    const { code, text } = html(member ? messagesPage(member, threadOf(member.slug)) : null);
    return reply.code(code).type('text/html; charset=utf-8').send(text);
  });
  app.post<{ Params: { slug: string }; Body: { text?: string; from?: string } }>(
    '/messages/:slug',
    (request, reply) => {
      const thread = threadOf(request.params.slug);
      thread.push({
        id: `${request.params.slug}-${thread.length + 1}`,
        from: request.body.from ?? 'Pell Garrick',
        at: new Date().toISOString(),
        text: String(request.body.text ?? ''),
      });
      return reply.redirect(`/messages/${request.params.slug}`, 303);
    },
  );
  await app.listen({ host, port });
  const address = app.server.address();
  const open = typeof address === 'object' && address ? address.port : port;
  base = `http://${host}:${open}`;
  return { port: open, stop: () => app.close() };
}
