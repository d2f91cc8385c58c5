import { writeCsv } from '@emporikon/core/formats/csv';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { disposition } from '../captures/attachments';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { requireRight } from '../commands/rights';
import { Person } from '../db/models/people';
import { fileSchema } from '../http/openapi';
import { notFound } from '../http/problems';
import { statements } from './person';

const HEAD = ['When', 'Person', 'Purpose', 'Topic', 'State', 'How', 'Words', 'Source', 'Address', 'Noted by'];
const MOST_ROWS = 100_000;
const AT_ONCE = 2000;
const Asked = z.object({
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
});
const OnePerson = z.object({ id: z.uuid() });

async function rowsOf(context: Context, which: string, bind: Record<string, unknown>): Promise<string[][]> {
  const rows: string[][] = [];
  let last: { at: Date; id: string } | null = null;
  do {
    const found: Awaited<ReturnType<typeof statements>> = await statements(
      context,
      `${which} AND ($beforeAt::timestamptz IS NULL OR (c.at, c.id) < ($beforeAt::timestamptz, $beforeId::uuid))`,
      { ...bind, most: AT_ONCE, beforeAt: last?.at ?? null, beforeId: last?.id ?? null },
    );
    const people = await Person.findAll({
      where: { id: [...new Set(found.map(({ personId }) => personId))] },
      attributes: ['id', 'fullName'],
      transaction: context.tx,
    });
    const names = new Map(people.map(({ id, fullName }) => [id, fullName]));
    for (const one of found)
      rows.push([
        ...[one.at.toISOString(), names.get(one.personId) ?? '', one.purpose, one.topic ?? '', one.state],
        ...[one.how, one.words, one.source, one.address ?? '', one.by ?? ''],
      ]);
    last = found.length === AT_ONCE ? (found.at(-1) ?? null) : null;
  } while (last && rows.length < MOST_ROWS);
  return rows;
}

/** Every statement with who, when, how and the words that were shown, as a table: of one person, or of everybody in a time. */
export function mountProofs(app: FastifyInstance, tools: Tools): void {
  const send = (name: string, rows: string[][]) => ({
    body: `\ufeff${writeCsv([HEAD, ...rows])}`,
    header: disposition(name),
  });
  app.get(
    '/api/people/:id/consent.csv',
    {
      schema: {
        ...fileSchema('GET /api/people/:id/consent.csv', {
          summary: 'What somebody agreed to and withdrew from, as a table',
          tag: 'consent',
          mediaType: 'text/csv',
        }),
        params: OnePerson,
      },
    },
    async (request, reply) => {
      const { id } = OnePerson.parse(request.params);
      const { body, header } = await runInTransaction(tools, request.actor, async (context) => {
        requireRight(context, 'people.export');
        const person = await Person.findOne({ where: { id, erasedAt: null }, transaction: context.tx });
        if (!person) throw notFound('There is no such person.');
        return send('consent.csv', await rowsOf(context, 'c.person_id = $id::uuid', { id }));
      });
      return reply.type('text/csv; charset=utf-8').header('content-disposition', header).send(body);
    },
  );
  app.get(
    '/api/consents.csv',
    {
      schema: {
        ...fileSchema('GET /api/consents.csv', {
          summary:
            'What everybody agreed to and withdrew from in a time, as a table; the newest 100,000 lines',
          tag: 'consent',
          mediaType: 'text/csv',
        }),
        querystring: Asked,
      },
    },
    async (request, reply) => {
      const { from = null, to = null } = Asked.parse(request.query);
      const { body, header } = await runInTransaction(tools, request.actor, async (context) => {
        requireRight(context, 'people.export');
        const which =
          '($from::date IS NULL OR c.at >= $from::date) AND ($to::date IS NULL OR c.at < $to::date + 1)';
        return send('consents.csv', await rowsOf(context, which, { from, to }));
      });
      return reply.type('text/csv; charset=utf-8').header('content-disposition', header).send(body);
    },
  );
}
