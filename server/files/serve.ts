import { IdParam } from '@emporikon/contract/common';
import type { FastifyInstance } from 'fastify';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { disposition, safeName, safeType } from '../captures/attachments';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { fileSchema } from '../http/openapi';
import { conflict, notFound } from '../http/problems';
import { loadBytes } from './parts';

const Query = z.object({
  number: z.coerce
    .number()
    .int()
    .min(1)
    .max(100_000)
    .optional()
    .describe('of the version; the newest when left out'),
  show: z.enum(['here']).optional().describe('to be shown in the page, where a picture or PDF can be'),
});

interface Found {
  name: string;
  sha256: string;
  media_type: string;
  preview: string | null;
  state: string;
  finding: string;
}

async function findVersion(tools: Tools, actor: Actor | null, id: string, number?: number): Promise<Found> {
  const [found] = await runInTransaction(tools, actor, ({ sequelize, tx }) =>
    sequelize.query<Found>(
      `SELECT v.name, v.sha256, c.media_type, c.preview, c.state, c.finding
         FROM files f JOIN file_versions v ON v.file_id = f.id AND v.number = coalesce(:number::int, f.number) JOIN file_contents c USING (sha256)
        WHERE f.id = :id`,
      { replacements: { id, number: number ?? null }, type: QueryTypes.SELECT, transaction: tx },
    ),
  );
  if (!found) throw notFound('There is no such file.');
  if (found.state === 'infected')
    throw conflict(`The scanner found ${found.finding} in this file; it cannot be opened.`);
  if (found.state === 'waiting') throw conflict('This file is still to be scanned. Try again in a moment.');
  return found;
}

/** Only what a browser shows and never runs is handed over to be shown. */
const isShown = ({ preview }: Found): boolean => preview === 'image' || preview === 'pdf';

export function mountFiles(app: FastifyInstance, tools: Tools): void {
  app.get<{ Params: { id: string }; Querystring: z.output<typeof Query> }>(
    '/api/files/:id/content',
    {
      schema: {
        ...fileSchema('GET /api/files/:id/content', {
          summary: 'A file, under a safe name and type',
          tag: 'files',
          mediaType: 'application/octet-stream',
          params: IdParam,
        }),
        querystring: Query,
      },
    },
    async (request, reply) => {
      const { number, show } = request.query;
      const found = await findVersion(tools, request.actor, request.params.id, number);
      const raw = await loadBytes(tools, found.sha256);
      if (!raw) throw notFound('There is no such file.');
      const name = disposition(safeName(found.name, 0));
      return reply
        .type(safeType(found.media_type))
        .header('content-disposition', show && isShown(found) ? name.replace(/^attachment/, 'inline') : name)
        .header('x-content-type-options', 'nosniff')
        .header('content-security-policy', "default-src 'none'; sandbox")
        .header('cache-control', 'private, no-cache')
        .header('etag', `"${found.sha256}"`)
        .send(raw);
    },
  );
}
