import { allRoutes } from '@emporikon/contract';
import type { FieldChange } from '@emporikon/contract/history';
import { writeCsv } from '@emporikon/core/formats/csv';
import { decimalOf } from '@emporikon/core/lifecycle/minorUnits';
import type { FastifyInstance } from 'fastify';
import { disposition } from '../captures/attachments';
import { runInTransaction, type Tools } from '../commands/context';
import { fileSchema } from '../http/openapi';
import { changesOf } from './read';

const MOST_ROWS = 20_000;
const HEAD = ['When', 'Who', 'Record', 'Kind', 'Field', 'From', 'To', 'Part of', 'Undone'];

const amount = (value: string | null, { type, currency }: FieldChange): string =>
  value && type === 'money' && currency ? `${decimalOf(Number(value), currency)} ${currency}` : (value ?? '');
const rowOf = (one: FieldChange): string[] => [
  one.at,
  one.actor?.name ?? '',
  one.record.name,
  one.record.table.replace('_', ' '),
  one.caption,
  amount(one.from, one),
  amount(one.to, one),
  one.source,
  one.isUndone ? 'yes' : '',
];

/** What was changed as a table, by the same questions as on the page; the newest twenty thousand lines. */
export function mountHistoryFiles(app: FastifyInstance, tools: Tools): void {
  const { query } = allRoutes['GET /api/changes'];
  app.get(
    '/api/changes.csv',
    {
      schema: {
        ...fileSchema('GET /api/changes.csv', {
          summary: 'Who changed what, as a table',
          tag: 'history',
          mediaType: 'text/csv',
        }),
        querystring: query.omit({ cursor: true, limit: true }),
      },
    },
    async (request, reply) => {
      const asked = query.parse(request.query);
      const rows = await runInTransaction(tools, request.actor, async (context) => {
        const found: string[][] = [];
        let cursor: string | undefined;
        do {
          const page = await changesOf(context, { ...asked, limit: 500, cursor });
          found.push(...page.items.map(rowOf));
          cursor = page.next ?? undefined;
        } while (cursor && found.length < MOST_ROWS);
        return found.slice(0, MOST_ROWS);
      });
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', disposition('changes.csv'))
        .send(`\ufeff${writeCsv([HEAD, ...rows])}`);
    },
  );
}
