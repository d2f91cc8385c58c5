import {
  languageOfCountry,
  PAGE_LANGUAGES,
  preferredLanguage,
  textsOf,
  withValues,
  type PageTexts,
} from '@emporikon/core/outreach/pageTexts';
import { countryCodes } from '@emporikon/core/places/countries';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { keepChoices, masked, offerTo, readerOf, stopByLink, stopsWhat, type Reader } from './choices';
import { homeCountry } from './language';
import { choicesPage, linkTo, sayPage, stopPage } from './page';

const CSP =
  "default-src 'none'; style-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";
const MOST_BYTES = 64 * 1024;
const COUNTRIES = countryCodes();

type Body = Readonly<Record<string, string>>;
interface Link {
  Params: { token: string };
  Querystring: { lang?: string; choose?: string };
  Body: Body;
}
type Asking = FastifyRequest<Link>;

const answer = (reply: FastifyReply, status: number, page: string): FastifyReply =>
  reply
    .code(status)
    .type('text/html; charset=utf-8')
    .header('content-security-policy', CSP)
    .header('cache-control', 'no-store')
    // The address of the page is the key to it.
    .header('referrer-policy', 'no-referrer')
    .send(page);

const isOurs = (language: unknown): language is string =>
  PAGE_LANGUAGES.some(({ code }) => code === language);

/** The language that was chosen on the page, else that of the browser, else that of where they live. */
async function languageOf(context: Context, request: Asking, reader: Reader): Promise<string> {
  const chosen = request.query.lang ?? request.body?.lang;
  if (isOurs(chosen)) return chosen;
  const preferred = preferredLanguage(String(request.headers['accept-language'] ?? ''));
  if (preferred) return preferred;
  return languageOfCountry(
    reader.kind === 'somebody' ? await homeCountry(context, reader.person.id) : context.house.country,
  );
}

/** Whether a body is the one of RFC 8058, 3.1; programs send it as a form of either kind. */
const isOneClick = (body: Body | undefined): boolean =>
  body?.['List-Unsubscribe']?.trim().toLowerCase() === 'one-click';

/** A form of several parts without files; only short fields are wanted. */
function readParts(text: string, boundary: string): Body {
  const fields: [string, string][] = [];
  for (const part of text.split(`--${boundary}`).slice(0, 60)) {
    const end = part.search(/\r?\n\r?\n/);
    const name = /content-disposition:[^\n]*\bname="?([^";\r\n]+)"?/i.exec(
      part.slice(0, Math.max(0, end)),
    )?.[1];
    if (name) fields.push([name, part.slice(end).trim()]);
  }
  return Object.fromEntries(fields);
}

function takeForms(scope: FastifyInstance): void {
  scope.removeAllContentTypeParsers();
  scope.addContentTypeParser(
    'application/x-www-form-urlencoded',
    { parseAs: 'string', bodyLimit: MOST_BYTES },
    (_request, body, done) => done(null, Object.fromEntries(new URLSearchParams(String(body)))),
  );
  scope.addContentTypeParser(
    'multipart/form-data',
    { parseAs: 'string', bodyLimit: MOST_BYTES },
    (request, body, done) => {
      const boundary = /boundary="?([^";]{1,70})"?/i.exec(request.headers['content-type'] ?? '')?.[1];
      done(null, boundary ? readParts(String(body), boundary) : {});
    },
  );
}

/** What a link was opened by, and by whom. */
interface Opened {
  context: Context;
  reader: Extract<Reader, { kind: 'somebody' }>;
  its: { language: string; texts: PageTexts };
  /** Of the page that the link opens. */
  path: string;
}

/**
 * Answers whoever opens a link of ours; everybody else is told that it is not one, or that nothing is kept of them any more.
 * @param whenGone the status for somebody of whom nothing is kept
 */
const withReader = (
  tools: Tools,
  request: Asking,
  reply: FastifyReply,
  whenGone: 200 | 410,
  act: (opened: Opened) => Promise<FastifyReply>,
): Promise<FastifyReply> =>
  runInTransaction(tools, null, async (context) => {
    const reader = await readerOf(context, request.params.token);
    const language = await languageOf(context, request, reader);
    const texts = textsOf(language);
    const its = { language, texts };
    if (reader.kind === 'unknown')
      return answer(reply, 404, sayPage(its, texts.unknownTitle, texts.unknownWords));
    if (reader.kind === 'gone')
      return answer(reply, whenGone, sayPage(its, texts.goneTitle, texts.goneWords));
    return act({ context, reader, its, path: `/u/${request.params.token}` });
  });

const showPage = (tools: Tools, request: Asking, reply: FastifyReply): Promise<FastifyReply> =>
  withReader(tools, request, reply, 410, async ({ context, reader, its, path }) => {
    const { linked, person } = reader;
    const address = masked(reader.address);
    if (linked.purposeId && !request.query.choose) {
      const what = await stopsWhat(context, linked, its.language, its.texts);
      return answer(reply, 200, stopPage(its, path, address, what));
    }
    const offer = await offerTo(context, person.id, its.language);
    const home = await homeCountry(context, person.id);
    return answer(reply, 200, choicesPage(its, path, address, offer, { countries: COUNTRIES, home }));
  });

const savePage = (tools: Tools, request: Asking, reply: FastifyReply): Promise<FastifyReply> =>
  withReader(tools, request, reply, 410, async ({ context, reader, its, path }) => {
    const { person } = reader;
    const { language, texts } = its;
    const address = masked(reader.address);
    const answers = request.body ?? {};
    const offer = await offerTo(context, person.id, language);
    const asked = { countries: COUNTRIES, home: await homeCountry(context, person.id) };
    const wrong = await keepChoices(context, person.id, offer, answers);
    if (wrong !== null) {
      const trouble = withValues(texts.wrongCode, { code: wrong });
      return answer(reply, 422, choicesPage(its, path, address, offer, { ...asked, answers, trouble }));
    }
    const kept = await offerTo(context, person.id, language);
    const isAny = kept.choices.some(({ isAgreed }) => isAgreed);
    const note = `${texts.saved}. ${isAny ? texts.savedWords : texts.nothing}`;
    return answer(reply, 200, choicesPage(its, path, address, kept, { ...asked, note }));
  });

/**
 * By the button of the page, or by the press in a mail program, which wants no page back (RFC 8058, 3.1). Nobody is written to of
 * whom nothing is kept: what was asked for is so.
 */
const stop = (
  tools: Tools,
  request: Asking,
  reply: FastifyReply,
  how: 'page' | 'one-click',
): Promise<FastifyReply> =>
  withReader(tools, request, reply, 200, async ({ context, reader, its, path }) => {
    const { language, texts } = its;
    const linked =
      request.body?.all === 'yes' ? { ...reader.linked, purposeId: null, topicId: null } : reader.linked;
    const what = await stopsWhat(context, linked, language, texts);
    await stopByLink(context, linked, {
      how,
      words: how === 'one-click' ? 'List-Unsubscribe=One-Click' : texts.stopButton,
      source: how === 'one-click' ? 'their mail program' : 'their page',
      address: reader.address || null,
    });
    const words = withValues(texts.stoppedWords, { address: masked(reader.address), what });
    const again = linkTo(`${path}?choose=yes&lang=${language}`, texts.mistake);
    return answer(reply, 200, sayPage(its, texts.stopped, words, again));
  });

/** The page of each person outside, behind a signed link. Nobody is signed in here. */
export async function mountConsentPages(app: FastifyInstance, tools: Tools): Promise<void> {
  await app.register(async (open) => {
    open.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
      route.schema = { hide: true };
    });
    takeForms(open);
    open.get<Link>('/u/:token', (request, reply) => showPage(tools, request, reply));
    open.post<Link>('/u/:token/choices', (request, reply) => savePage(tools, request, reply));
    open.post<Link>('/u/:token/stop', (request, reply) => stop(tools, request, reply, 'page'));
    open.post<Link>('/u/:token', (request, reply) => {
      if (isOneClick(request.body)) return stop(tools, request, reply, 'one-click');
      return showPage(tools, request, reply);
    });
  });
}
