import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { runInTransaction, type Tools } from '../commands/context';
import { Form } from '../db/models/forms';
import { ProblemError } from '../http/problems';
import { confirmPage, formPage, formSnippet, HONEYPOT, thanksPage, wordsPage } from './page';
import { confirmConsent, isConsentToken, submitForm } from './submit';

const CSP =
  "default-src 'none'; style-src 'self'; font-src 'self'; img-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors *";
const MOST_SENDS = 10;
const MOST_BYTES = 200 * 1024;

const find = (slug: string): Promise<Form | null> =>
  Form.findOne({ where: { slug, kind: 'public', active: true } });

const html = (reply: FastifyReply, status: number, page: string): FastifyReply =>
  reply
    .code(status)
    .type('text/html; charset=utf-8')
    .header('content-security-policy', CSP)
    .removeHeader('x-frame-options')
    .header('cache-control', 'no-store')
    .send(page);

const gone = (reply: FastifyReply): FastifyReply =>
  html(reply, 404, wordsPage('Not here', 'This form is closed, or the address is not quite right.'));

const unknownLink = (): string =>
  wordsPage('Not known', 'This link is not valid. Your mail program may have cut it short.');

/** Forms for people outside: pages, snippets and the link that confirms an address. Nobody is signed in here. */
export async function mountPublicForms(app: FastifyInstance, tools: Tools): Promise<void> {
  await app.register(async (open) => {
    open.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
    });
    await open.register(rateLimit, { global: false });
    open.addContentTypeParser(
      'application/x-www-form-urlencoded',
      { parseAs: 'string', bodyLimit: MOST_BYTES },
      (_request, body, done) => done(null, Object.fromEntries(new URLSearchParams(String(body)))),
    );
    open.get<{ Params: { slug: string }; Querystring: { page?: string } }>(
      '/f/:slug',
      { schema: { hide: true } },
      async (request, reply) => {
        const form = await find(request.params.slug);
        if (!form) return gone(reply);
        const page = String(request.query.page ?? '').slice(0, 500);
        const action = `/f/${form.slug}${page ? `?page=${encodeURIComponent(page)}` : ''}`;
        return html(reply, 200, formPage(form, action));
      },
    );
    open.get<{ Params: { slug: string } }>(
      '/f/:slug/embed.js',
      { schema: { hide: true } },
      async (request, reply) => {
        const form = await find(request.params.slug);
        if (!form) return reply.code(404).type('text/plain').send('There is no such form.');
        return reply
          .type('text/javascript; charset=utf-8')
          .header('cross-origin-resource-policy', 'cross-origin')
          .send(formSnippet(form, tools.house.publicUrl));
      },
    );
    open.post<{ Params: { slug: string }; Querystring: { page?: string } }>(
      '/f/:slug',
      {
        schema: { hide: true },
        config: {
          rateLimit: {
            max: MOST_SENDS,
            timeWindow: '1 minute',
            errorResponseBuilder: () =>
              new ProblemError({
                type: 'urn:emporikon:problem:too-many',
                title: 'Too many attempts',
                status: 429,
                detail: 'Too many messages at once. What we received is safe; wait a minute and send again.',
              }),
          },
        },
      },
      async (request, reply) => {
        const form = await find(request.params.slug);
        if (!form) return gone(reply);
        const body = Object.fromEntries(
          Object.entries((request.body ?? {}) as Record<string, unknown>).map(([name, value]) => [
            name,
            String(value).slice(0, 5000),
          ]),
        );
        // Whoever fills in what nobody sees is thanked like everybody, so that they learn nothing.
        if (body[HONEYPOT]) return html(reply, 200, thanksPage(form, false));
        const agreed = body.agreed === 'yes';
        try {
          const { submission } = await runInTransaction(tools, null, (context) =>
            submitForm(context, form, {
              answers: body,
              agreed,
              page: String(request.query.page ?? '').slice(0, 500) || undefined,
            }),
          );
          return html(reply, 200, thanksPage(form, submission.confirmHash !== null));
        } catch (error) {
          if (error instanceof ProblemError && error.problem.fields)
            return html(reply, 422, formPage(form, request.url, body, error.problem.fields));
          throw error;
        }
      },
    );
    // Opening the link decides nothing: programs that look through mail open every link in it. Whoever agrees presses.
    open.get<{ Params: { token: string } }>(
      '/f/confirm/:token',
      { schema: { hide: true } },
      async (request, reply) =>
        (await runInTransaction(tools, null, (context) => isConsentToken(context, request.params.token)))
          ? html(reply, 200, confirmPage(request.params.token))
          : html(reply, 404, unknownLink()),
    );
    open.post<{ Params: { token: string } }>(
      '/f/confirm/:token',
      { schema: { hide: true } },
      async (request, reply) => {
        const isOurs = await runInTransaction(tools, null, (context) =>
          confirmConsent(context, request.params.token),
        );
        return isOurs
          ? html(reply, 200, wordsPage('Confirmed', 'Thank you. Your address is confirmed.'))
          : html(reply, 404, unknownLink());
      },
    );
  });
}
