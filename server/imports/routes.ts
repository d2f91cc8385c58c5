import { IdParam } from '@emporikon/contract/common';
import type { Mapping } from '@emporikon/contract/imports';
import { writeCsv } from '@emporikon/core/formats/csv';
import type { Right } from '@emporikon/core/rights/rights';
import type { TableTarget } from '@emporikon/core/reading/table/records';
import { shapeKey } from '@emporikon/core/reading/table/read';
import type { FastifyInstance } from 'fastify';
import { QueryTypes } from 'sequelize';
import { disposition } from '../captures/attachments';
import { runInTransaction, requireActor, type Context, type Tools } from '../commands/context';
import { requireRight } from '../commands/rights';
import { List } from '../db/models/fields';
import { User } from '../db/models/users';
import { fileSchema } from '../http/openapi';
import type { Handlers } from '../http/mount';
import { conflict, invalid } from '../http/problems';
import { addJob } from '../jobs/job';
import { previewJob, runJob, undoJob } from './jobs';
import { requireKnownField } from '../fields/mapping';
import { hashOf } from './choose';
import type { RowData } from './source';
import { importDetail, listImports, loadImport } from './view';

/** What it takes to bring rows in: companies come along with people, people and companies with deals. */
const PEOPLE: readonly Right[] = ['people.add', 'people.change', 'companies.add'];
const RIGHTS_TO_IMPORT: Readonly<Record<TableTarget, readonly Right[]>> = {
  people: PEOPLE,
  companies: ['companies.add', 'companies.change'],
  deals: ['deals.add', 'deals.change', 'people.add', 'companies.add'],
};

async function checkMapping(
  context: Context,
  mapping: Mapping,
  choices: { listId: string | null; ownerId: string | null },
): Promise<void> {
  for (const { field } of mapping.columns) await requireKnownField(context, field, 'columns');
  if (choices.listId && !(await List.findByPk(choices.listId, { transaction: context.tx })))
    throw invalid('There is no such list.', { fields: { listId: 'does not exist' } });
  if (choices.ownerId && !(await User.findByPk(choices.ownerId, { transaction: context.tx })))
    throw invalid('There is no such colleague.', { fields: { ownerId: 'does not exist' } });
}

interface Row {
  row: number;
  verdict: 'new' | 'same' | 'maybe' | 'unusable';
  outcome: string | null;
  reason: string;
  data: RowData & { cells?: string[] };
  person_id: string | null;
  person: string | null;
}

const valuesOf = ({ data }: Row): string[] =>
  data.cells ?? [
    data.name,
    data.title ?? '',
    data.company ?? '',
    data.emails.map((email) => email.value).join(', '),
    data.phones.map((phone) => phone.value).join(', '),
  ];

export const importHandlers: Handlers = {
  'GET /api/imports': async ({ query, context }) => listImports(context, query),
  'GET /api/imports/:id': async ({ params, context }) => importDetail(context, params.id),
  'PUT /api/imports/:id/mapping': async ({ params, body, context }) => {
    const one = await loadImport(context, params.id, true);
    if (!['mapping', 'previewing', 'previewed', 'failed'].includes(one.state))
      throw conflict('This import has started, so its columns cannot change.');
    await checkMapping(context, body.mapping, body.choices);
    await context.write.update(
      one,
      { mapping: body.mapping, choices: body.choices, state: 'previewing', done: 0, trouble: '' },
      body.version,
    );
    if (one.reading && (body.mapping.target ?? 'people') === 'people')
      await context.sequelize.query(
        `INSERT INTO import_shapes (key, mapping, used_at) VALUES (:key, :mapping, :now)
         ON CONFLICT (key) DO UPDATE SET mapping = excluded.mapping, used_at = excluded.used_at`,
        {
          replacements: {
            key: hashOf(shapeKey(one.reading)),
            mapping: JSON.stringify(body.mapping),
            now: context.now(),
          },
          transaction: context.tx,
        },
      );
    await addJob(context, previewJob, { id: one.id }, `preview:${one.id}`);
    await context.write.event('map import', `Mapped ${one.name}`, requireActor(context).id);
    return importDetail(context, one.id);
  },
  'GET /api/imports/:id/rows': async ({ params, query, context }) => {
    await loadImport(context, params.id);
    const rows = await context.sequelize.query<Row>(
      `SELECT i.row, i.verdict, i.outcome, i.reason, i.data, p.id AS person_id, p.full_name AS person
         FROM import_rows i LEFT JOIN people p ON p.id = i.person_id
        WHERE i.import_id = :id AND i.row > :after AND (:verdict::text IS NULL OR i.verdict = :verdict) ORDER BY i.row LIMIT :limit`,
      {
        replacements: {
          id: params.id,
          after: query.after,
          verdict: query.verdict ?? null,
          limit: query.limit + 1,
        },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    const page = rows.slice(0, query.limit);
    return {
      items: page.map((row) => ({
        row: row.row,
        verdict: row.verdict,
        outcome: row.outcome,
        reason: row.reason,
        values: valuesOf(row),
        person: row.person_id && row.person ? { id: row.person_id, name: row.person } : null,
      })),
      next: rows.length > page.length ? (page.at(-1)?.row ?? null) : null,
    };
  },
  'POST /api/imports/:id/start': async ({ params, context }) => {
    const one = await loadImport(context, params.id, true);
    if (one.state === 'running') return importDetail(context, one.id);
    if (!['previewed', 'paused'].includes(one.state))
      throw conflict('Check the preview first: choose what each column holds.');
    for (const right of RIGHTS_TO_IMPORT[one.mapping?.target ?? 'people']) requireRight(context, right);
    await context.write.update(one, { state: 'running' });
    await addJob(context, runJob, { id: one.id }, `run:${one.id}`);
    await context.write.event('start import', `Began the import of ${one.name}`, requireActor(context).id);
    return importDetail(context, one.id);
  },
  'POST /api/imports/:id/pause': async ({ params, context }) => {
    const one = await loadImport(context, params.id, true);
    if (one.state !== 'running') throw conflict('This import is not running.');
    await context.write.update(one, { state: 'paused' });
    await context.write.event('pause import', `Paused the import of ${one.name}`, requireActor(context).id);
    return importDetail(context, one.id);
  },
  'POST /api/imports/:id/undo': async ({ params, context }) => {
    const one = await loadImport(context, params.id, true);
    for (const right of RIGHTS_TO_IMPORT[one.mapping?.target ?? 'people']) requireRight(context, right);
    if (!['done', 'paused'].includes(one.state))
      throw conflict('Only a finished or paused import can be undone.');
    await context.write.update(one, { state: 'undoing' });
    await addJob(context, undoJob, { id: one.id }, `undo:${one.id}`);
    await context.write.event(
      'take back import',
      `Undoing the import of ${one.name}`,
      requireActor(context).id,
    );
    return importDetail(context, one.id);
  },
  'DELETE /api/imports/:id': async ({ params, context }) => {
    const one = await loadImport(context, params.id, true);
    if (!['mapping', 'previewing', 'previewed', 'failed', 'undone'].includes(one.state))
      throw conflict('This import has saved records. Undo it first.');
    await context.sequelize.query('DELETE FROM import_rows WHERE import_id = :id', {
      replacements: { id: one.id },
      transaction: context.tx,
    });
    await one.destroy({ transaction: context.tx });
    return { eventId: null };
  },
};

/** The rows that were not taken, as a file like the one that came, with the reason in a column of its own. */
async function rejectedTable(context: Context, id: string): Promise<{ name: string; text: string }> {
  const one = await loadImport(context, id);
  const rows = await context.sequelize.query<Row>(
    `SELECT row, verdict, outcome, reason, data, NULL AS person_id, NULL AS person FROM import_rows
      WHERE import_id = :id AND (verdict = 'unusable' OR outcome = 'rejected' OR (verdict = 'maybe' AND outcome IS NULL)) ORDER BY row`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const head = one.reading?.columns.map((column) => column.heading) ?? ['Name', 'Company'];
  const text = writeCsv([
    [...head, 'Reason for rejection'],
    ...rows.map((row) => {
      const cells = valuesOf(row).slice(0, head.length);
      return [
        ...cells,
        ...Array<string>(head.length - cells.length).fill(''),
        row.reason || 'may be somebody we know',
      ];
    }),
  ]);
  return { name: one.name, text };
}

export function mountImportFiles(app: FastifyInstance, tools: Tools): void {
  app.get<{ Params: { id: string } }>(
    '/api/imports/:id/rejected.csv',
    {
      schema: fileSchema('GET /api/imports/:id/rejected.csv', {
        summary: 'The rows that were not taken, with the reason',
        tag: 'imports',
        params: IdParam,
        mediaType: 'text/csv',
      }),
    },
    async (request, reply) => {
      const { name, text } = await runInTransaction(tools, request.actor, (context) =>
        rejectedTable(context, request.params.id),
      );
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', disposition(`${name.replace(/\.[^.]*$/, '')} rejected.csv`))
        .send(`\ufeff${text}`);
    },
  );
}
