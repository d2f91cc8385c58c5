import { IdParam } from '@emporikon/contract/common';
import type { FastifyInstance } from 'fastify';
import { disposition } from '../captures/attachments';
import { runInTransaction, type Tools } from '../commands/context';
import { fileSchema } from '../http/openapi';
import { peopleTable, personCard } from './cards';

/** People as files: one as a card, all as a table. */
export function mountPeopleFiles(app: FastifyInstance, tools: Tools): void {
  app.get<{ Params: { id: string } }>(
    '/api/people/:id/card',
    {
      config: { right: 'people.export' },
      schema: fileSchema('GET /api/people/:id/card', {
        summary: 'A person as a vCard 4.0',
        tag: 'people',
        params: IdParam,
        mediaType: 'text/vcard',
      }),
    },
    async (request, reply) => {
      const { name, card } = await runInTransaction(tools, request.actor, (context) =>
        personCard(context, request.params.id),
      );
      return reply
        .type('text/vcard; charset=utf-8')
        .header('content-disposition', disposition(`${name}.vcf`))
        .send(card);
    },
  );
  app.get(
    '/api/people.csv',
    {
      config: { right: 'people.export' },
      schema: fileSchema('GET /api/people.csv', {
        summary: 'Everybody as a table',
        tag: 'people',
        mediaType: 'text/csv',
      }),
    },
    async (request, reply) => {
      const table = await runInTransaction(tools, request.actor, peopleTable);
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', disposition('people.csv'))
        .send(`\ufeff${table}`);
    },
  );
}
