import { IdParam } from '@emporikon/contract/common';
import type { FastifyInstance } from 'fastify';
import { disposition } from '../captures/attachments';
import { requireActor, runInTransaction, type Context, type Tools } from '../commands/context';
import { fileSchema } from '../http/openapi';
import { printSummary } from './print';
import { User } from '../db/models/users';
import { companySummary, dealSummary, personSummary, type Reader, type Summary } from './read';

const READ: Record<
  string,
  { one: string; read: (context: Context, id: string, reader: Reader) => Promise<Summary> }
> = {
  people: { one: 'person', read: personSummary },
  companies: { one: 'company', read: companySummary },
  deals: { one: 'deal', read: dealSummary },
};

/** A person, a company or a deal on one sheet of paper. */
export function mountSummaries(app: FastifyInstance, tools: Tools): void {
  for (const [many, { one, read }] of Object.entries(READ)) {
    const path = `/api/${many}/:id/summary.pdf`;
    app.get<{ Params: { id: string } }>(
      path,
      {
        schema: fileSchema(`GET ${path}`, {
          summary: `A ${one} on one page: the card, what is open, what was said last, what is next`,
          tag: many,
          params: IdParam,
          mediaType: 'application/pdf',
        }),
      },
      async (request, reply) => {
        const told = await runInTransaction(tools, request.actor, async (context) => {
          const { id, name, timeZone } = requireActor(context);
          const user = await User.findByPk(id, { transaction: context.tx });
          const reader = { locale: user?.locale ?? 'en-GB', timeZone };
          const at = context.now();
          const day = new Intl.DateTimeFormat(reader.locale, { dateStyle: 'long', timeZone }).format(at);
          return { summary: await read(context, request.params.id, reader), printed: { by: name, day, at } };
        });
        const file = await printSummary(told.summary, told.printed);
        return reply
          .type('application/pdf')
          .header('content-disposition', disposition(`${told.summary.title}.pdf`))
          .send(file);
      },
    );
  }
}
