import { isByPerson } from '@emporikon/core/outreach/tracking';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { readIds } from '../consent/links';
import { wishOf } from './followed';
import { Letter, LetterLink, LetterRecipient } from '../db/models/letters';
import { Signal } from '../db/models/qualifying';

/** The smallest picture there is: one transparent pixel (GIF89a). */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
/** The same link pressed again within so long is one press. */
const ONE_PRESS_MS = 60_000;

interface Link {
  Params: { token: string };
}
type Asking = FastifyRequest<Link>;

const headerOf = (request: Asking, name: string): string => String(request.headers[name] ?? '');

interface Read {
  letter: Letter;
  row: LetterRecipient;
  isPerson: boolean;
}

/** Whose letter it is, and whether a person reads it; null where it is gone, or where nothing of its reading is recorded. */
async function readBy(context: Context, request: Asking, letterId: string): Promise<Read | null> {
  const letter = await Letter.findByPk(letterId, { transaction: context.tx });
  if (letter?.state !== 'sent' || !letter.sentAt || letter.follows === 'nothing') return null;
  const row = await LetterRecipient.findOne({ where: { letterId }, transaction: context.tx, lock: true });
  // A wish said since counts for letters that went out before it.
  if (!row || (row.personId && (await wishOf(context, row.personId)) === 'withdrawn')) return null;
  const isPerson = isByPerson({
    userAgent: headerOf(request, 'user-agent'),
    method: request.method,
    purpose: ['sec-purpose', 'purpose', 'x-moz'].map((name) => headerOf(request, name)).join(' '),
    seconds: (context.now().getTime() - letter.sentAt.getTime()) / 1000,
  });
  return { letter, row, isPerson };
}

async function signal(
  context: Context,
  { row }: Read,
  kind: 'opened' | 'clicked',
  words: string,
): Promise<void> {
  if (row.personId)
    await context.write.insert(Signal, {
      id: context.newId(),
      personId: row.personId,
      kind,
      at: context.now(),
      words: words.slice(0, 200),
      createdAt: context.now(),
    });
}

/** An open is told once. A program that fetches for everybody is noted apart, and tells nothing of a reader. */
async function noteOpen(context: Context, read: Read): Promise<void> {
  const { row, letter, isPerson } = read;
  if (row.openedAt || (!isPerson && row.fetchedAt)) return;
  await context.write.update(row, isPerson ? { openedAt: context.now() } : { fetchedAt: context.now() });
  if (isPerson) await signal(context, read, 'opened', `opened “${letter.subject}”`);
  await context.write.event(
    'note open',
    `“${letter.subject.slice(0, 60)}” was ${isPerson ? 'opened' : 'fetched'}`,
    null,
  );
}

/** Whoever follows a link has opened the letter as well, whatever its pictures say. */
async function noteClick(context: Context, read: Read, url: string): Promise<void> {
  const { row, letter, isPerson } = read;
  const now = context.now();
  if (!isPerson) return;
  if (row.clickedAt && now.getTime() - row.clickedAt.getTime() < ONE_PRESS_MS) return;
  await context.write.update(row, {
    ...{ clickedAt: now, clicks: (row.clicks ?? 0) + 1 },
    ...(row.openedAt ? {} : { openedAt: now }),
  });
  await signal(context, read, 'clicked', `followed ${new URL(url).host} in “${letter.subject}”`);
  await context.write.event('note click', `A link in “${letter.subject.slice(0, 60)}” was followed`, null);
}

async function follow(tools: Tools, request: Asking, reply: FastifyReply): Promise<FastifyReply> {
  const url = await runInTransaction(tools, null, async (context) => {
    const [linkId] = (await readIds(context, 'link', request.params.token)) ?? [];
    const link = linkId ? await LetterLink.findByPk(linkId, { transaction: context.tx }) : null;
    if (!link) return null;
    const read = request.actor ? null : await readBy(context, request, link.letterId);
    if (read) await noteClick(context, read, link.url);
    return link.url;
  });
  if (!url) return reply.code(404).type('text/plain; charset=utf-8').send('This link is not valid.');
  return reply.code(302).header('location', url).send();
}

async function open(tools: Tools, request: Asking, reply: FastifyReply): Promise<FastifyReply> {
  await runInTransaction(tools, null, async (context) => {
    const [letterId] = (await readIds(context, 'open', request.params.token)) ?? [];
    const read = letterId && !request.actor ? await readBy(context, request, letterId) : null;
    if (read) await noteOpen(context, read);
  });
  return reply.type('image/gif').header('cross-origin-resource-policy', 'cross-origin').send(PIXEL);
}

/** The links and marks of letters. Nobody is signed in here; where one of us is, nothing is recorded. */
export async function mountTracked(app: FastifyInstance, tools: Tools): Promise<void> {
  await app.register(async (scope) => {
    scope.addHook('onRoute', (route) => {
      route.config = { ...route.config, access: 'public' };
      route.schema = { hide: true };
    });
    scope.addHook('onSend', async (_request, reply) => {
      // The address of the link is of this letter alone, and nobody else's to know.
      void reply.header('cache-control', 'no-store').header('referrer-policy', 'no-referrer');
    });
    scope.get<Link>('/l/:token', (request, reply) => follow(tools, request, reply));
    scope.get<Link>('/o/:token', (request, reply) => open(tools, request, reply));
  });
}
