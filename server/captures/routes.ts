import { cappedCount } from '../db/counting';
import { IdParam } from '@emporikon/contract/common';
import type { FastifyInstance, FastifyReply, FastifySchema } from 'fastify';
import { literal, Op, QueryTypes } from 'sequelize';
import type { Literal } from 'sequelize/types/utils';
import { z } from 'zod';
import type { Tools } from '../commands/context';
import { Capture, ClaimRow } from '../db/models/captures';
import { early, type Handlers } from '../http/mount';
import { invalid, notFound } from '../http/problems';
import { fileSchema } from '../http/openapi';
import { decodeCursor, encodeCursor } from '../http/paging';
import { fetchPage } from '../outside/pages';
import { disposition, loadAttachment, loadOriginal, safeName, safeType } from './attachments';
import { fileListed } from './fileListed';
import { readArrivals } from './arrivals';
import { addClaim, changeClaim, changeIntent } from './claims';
import { fileOnCompany } from './fileCompany';
import { fileCapture } from './filing';
import { messageHtml } from './message';
import { storeCapture } from './store';
import { moveInTray } from './tray';
import { asRow, captureDetail } from './view';

/** As the index has it (migration 0021). */
const IS_NEGATIVE = "(CASE WHEN message ->> 'tone' = 'negative' THEN 1 ELSE 0 END)";

export const captureHandlers: Handlers = {
  'GET /api/captures': async ({ query, context }) => {
    const isByTone = query.first === 'negative';
    const [before = '', beforeId = '', beforeTone = ''] = decodeCursor(query.cursor, isByTone ? 3 : 2);
    const captures = await Capture.findAll({
      where: {
        state: query.state,
        [Op.and]: before
          ? [
              literal(
                isByTone
                  ? `(${IS_NEGATIVE}, received_at, id) < (:beforeTone::int, :before::timestamptz, :beforeId::uuid)`
                  : '(received_at, id) < (:before::timestamptz, :beforeId::uuid)',
              ),
            ]
          : [],
      },
      replacements: { before, beforeId, beforeTone },
      attributes: { exclude: ['raw'] },
      order: [
        ...(isByTone ? [[literal(IS_NEGATIVE), 'DESC'] as [Literal, string]] : []),
        ['receivedAt', 'DESC'],
        ['id', 'DESC'],
      ],
      limit: query.limit + 1,
      transaction: context.tx,
    });
    const page = captures.slice(0, query.limit);
    const names = await ClaimRow.findAll({
      where: { captureId: page.map((one) => one.id), field: 'fullName', fate: ['proposed', 'current'] },
      transaction: context.tx,
    });
    const callers = await context.sequelize.query<{ id: string; name: string }>(
      'SELECT c.capture_id AS id, p.full_name AS name FROM calls c JOIN people p ON p.id = c.person_id WHERE c.capture_id = ANY(ARRAY[:ids]::uuid[])',
      { replacements: { ids: page.map((one) => one.id) }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    const nameOf = ({ id }: Capture): string | undefined =>
      names.find((name) => name.captureId === id)?.value ?? callers.find((caller) => caller.id === id)?.name;
    const [count] = await context.sequelize.query<{ waiting: number; oldest: Date | null }>(
      `SELECT ${cappedCount("captures WHERE state = 'waiting'")} AS waiting, (SELECT min(received_at) FROM captures WHERE state = 'waiting') AS oldest`,
      { type: QueryTypes.SELECT, transaction: context.tx },
    );
    const last = page.at(-1);
    return {
      items: page.map((one) => asRow(one, nameOf(one))),
      next:
        captures.length > page.length && last
          ? encodeCursor([
              last.receivedAt.toISOString(),
              last.id,
              ...(isByTone ? [last.message.tone === 'negative' ? '1' : '0'] : []),
            ])
          : null,
      waiting: count?.waiting ?? 0,
      oldest: count?.oldest?.toISOString() ?? null,
    };
  },
  'POST /api/captures': early(async ({ query, request, reply, tools, perform: performOnce }) => {
    if (!Buffer.isBuffer(request.body))
      throw invalid('There is nothing in it; nothing was captured. Choose a message or paste its text.');
    const mediaType = (request.headers['content-type'] ?? '').split(';')[0]?.trim().toLowerCase() ?? '';
    const arrivals = await readArrivals(tools, request.actor, request.body, { mediaType, url: query.url });
    return performOnce(async (context) => {
      const stored = [];
      for (const arrival of arrivals) stored.push(await storeCapture(context, arrival, { by: query.by }));
      const [first, ...others] = stored;
      if (!first) throw invalid('There is nothing in it; nothing was captured.');
      if (!stored.some((one) => one.created)) reply.code(200);
      return captureDetail(
        context,
        first.capture.id,
        others.map((other) => other.capture.id),
      );
    });
  }),
  'POST /api/captures/fetch': early(async ({ body, tools, actor, perform: performOnce }) => {
    const { url, html } = await fetchPage(body.url, tools.outside.door);
    const arrivals = await readArrivals(tools, actor, html, { mediaType: 'text/html', url });
    return performOnce(async (context) => {
      const [arrival] = arrivals;
      if (!arrival) throw invalid('There is nothing on that page; nothing was captured.');
      const { capture } = await storeCapture(context, arrival, { by: 'fetch' });
      return captureDetail(context, capture.id);
    });
  }),
  'POST /api/captures/:id/listed': async ({ params, body, context }) => fileListed(context, params.id, body),
  'GET /api/captures/:id': async ({ params, context }) => captureDetail(context, params.id),
  'POST /api/captures/:id/filing': async ({ params, body, context }) =>
    fileCapture(context, params.id, body ?? {}),
  'POST /api/captures/:id/company': async ({ params, body, context }) =>
    fileOnCompany(context, params.id, body),
  'POST /api/captures/:id/set-aside': async ({ params, context }) =>
    moveInTray(context, [params.id], 'set aside'),
  'POST /api/captures/set-aside': async ({ body, context }) => moveInTray(context, body.ids, 'set aside'),
  'POST /api/captures/bring-back': async ({ body, context }) => moveInTray(context, body.ids, 'waiting'),
  'POST /api/captures/:id/claims': async ({ params, body, context }) =>
    addClaim(context, params.id, body.field, body.value, body.type),
  'PATCH /api/claims/:id': async ({ params, body, context }) => changeClaim(context, params.id, body),
  'PATCH /api/intents/:id': async ({ params, body, context }) => ({
    eventId: await changeIntent(context, params.id, body.fate),
  }),
};

const EXTENSIONS: Record<string, string> = {
  'message/rfc822': 'eml',
  'text/html': 'html',
  'text/vcard': 'vcf',
  'text/plain': 'txt',
  'application/json': 'json',
};

const frame = (html: string): string =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Message</title><link rel="stylesheet" href="/assets/message.css"></head><body>${html}</body></html>`;

/** The message itself: its sanitised HTML for a sandboxed frame, and the untouched bytes for whoever wants them. */
export function mountMessageViews(app: FastifyInstance, tools: Tools): void {
  const schema = (
    path: string,
    summary: string,
    mediaType: string,
    params: z.ZodType = IdParam,
  ): FastifySchema => fileSchema(`GET ${path}`, { summary, tag: 'captures', mediaType, params });
  app.get<{ Params: { id: string } }>(
    '/api/captures/:id/message',
    {
      schema: schema(
        '/api/captures/:id/message',
        'An HTML message, sanitised, with what was read marked',
        'text/html',
      ),
    },
    async (request, reply: FastifyReply) => {
      const html = await messageHtml(tools, request.actor, request.params.id);
      if (html === null) throw notFound('This message is plain text; it comes with the capture itself.');
      return reply
        .type('text/html; charset=utf-8')
        .header(
          'content-security-policy',
          "default-src 'none'; style-src 'self'; font-src 'self'; frame-ancestors 'self'; sandbox allow-same-origin",
        )
        .header('cache-control', 'no-store')
        .send(frame(html));
    },
  );
  app.get<{ Params: { id: string } }>(
    '/api/captures/:id/raw',
    { schema: schema('/api/captures/:id/raw', 'The capture as it came', 'application/octet-stream') },
    async (request, reply: FastifyReply) => {
      const capture = await loadOriginal(tools, request.actor, request.params.id);
      return reply
        .type('application/octet-stream')
        .header(
          'content-disposition',
          `attachment; filename="${capture.id}.${EXTENSIONS[capture.mediaType] ?? 'bin'}"`,
        )
        .send(capture.raw);
    },
  );
  app.get<{ Params: { id: string; position: number } }>(
    '/api/captures/:id/attachments/:position',
    {
      schema: schema(
        '/api/captures/:id/attachments/:position',
        'One attachment, under a safe name and type',
        'application/octet-stream',
        IdParam.extend({ position: z.coerce.number().int().min(0).max(99) }),
      ),
    },
    async (request, reply: FastifyReply) => {
      const { id, position } = request.params;
      const found = await loadAttachment(tools, request.actor, id, position);
      return reply
        .type(safeType(found.mediaType))
        .header('content-disposition', disposition(safeName(found.name, position)))
        .header('x-content-type-options', 'nosniff')
        .header('content-security-policy', "default-src 'none'; sandbox")
        .send(Buffer.from(found.content));
    },
  );
}
