import { IdParam } from '@emporikon/contract/common';
import { queryString } from '@emporikon/contract/queries';
import { EXPORT_FORMATS, FORMAT_NAMES } from '@emporikon/core/outgoing/formats';
import { rightOn } from '@emporikon/core/rights/kinds';
import type { Query } from '@emporikon/core/query/types';
import type { FastifyInstance, FastifyReply } from 'fastify';
import { Readable } from 'node:stream';
import type { z } from 'zod';
import { disposition } from '../captures/attachments';
import { runInTransaction, type Tools } from '../commands/context';
import { requireRight } from '../commands/rights';
import { fileSchema } from '../http/openapi';
import { conflict } from '../http/problems';
import { makeNow, partOf } from './make';
import { loadExport } from './routes';

const isText = (mediaType: string): boolean => !mediaType.includes('officedocument');
const asFile = (reply: FastifyReply, mediaType: string, name: string): FastifyReply =>
  reply
    .type(isText(mediaType) ? `${mediaType}; charset=utf-8` : mediaType)
    .header('content-disposition', disposition(name));
const fileName = (label: string, ending: string): string =>
  `${label.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'export'}.${ending}`;

/** What a view shows as a file: at once where it is small, and as it was made in the background. */
export function mountExports(app: FastifyInstance, tools: Tools): void {
  for (const format of EXPORT_FORMATS) {
    const { name, mediaType } = FORMAT_NAMES[format];
    const path = `/api/queries.${format}`;
    app.get<{ Querystring: z.output<typeof queryString> }>(
      path,
      {
        schema: {
          ...fileSchema(`GET ${path}`, { summary: `What a query shows: ${name}`, tag: 'exports', mediaType }),
          querystring: queryString,
        },
      },
      async (request, reply) => {
        const { query, dateField, name: label } = request.query;
        const file = await runInTransaction(tools, request.actor, (context) =>
          makeNow(context, { query: query as Query, format, dateField }),
        );
        return asFile(reply, mediaType, fileName(label ?? `${query.kind} export`, format)).send(file);
      },
    );
  }
  app.get<{ Params: { id: string } }>(
    '/api/exports/:id/file',
    {
      schema: fileSchema('GET /api/exports/:id/file', {
        summary: 'The file of an export that is done',
        tag: 'exports',
        mediaType: 'application/octet-stream',
        params: IdParam,
      }),
    },
    async (request, reply) => {
      const { id } = request.params;
      const row = await runInTransaction(tools, request.actor, (context) => loadExport(context, id));
      requireRight({ actor: request.actor }, rightOn(row.query.kind, 'export'));
      if (row.state !== 'done') throw conflict(row.trouble || 'This file is still being made.');
      const pieces = async function* (): AsyncGenerator<Buffer> {
        // A transaction for each part, so that a slow reader holds no connection.
        for (let at = 0; at < row.parts; at++)
          yield await runInTransaction(tools, request.actor, (context) => partOf(context, id, at));
      };
      return asFile(reply, FORMAT_NAMES[row.format].mediaType, fileName(row.label, row.format))
        .header('content-length', row.size)
        .send(Readable.from(pieces()));
    },
  );
}
