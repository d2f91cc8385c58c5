import { IdParam } from '@emporikon/contract/common';
import { Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { FastifyInstance } from 'fastify';
import { Readable } from 'node:stream';
import { disposition, safeName } from '../captures/attachments';
import { runInTransaction, type Actor, type Context, type Tools } from '../commands/context';
import { HANDS_OVER } from '../commands/followers';
import { requireRight } from '../commands/rights';
import { pastSight } from '../commands/sight';
import { hiddenKeys } from '../fields/rights';
import { loadBytes } from '../files/parts';
import { fileSchema } from '../http/openapi';
import { notFound } from '../http/problems';
import { loadKnown, loadScope, type PersonScope } from './scope';
import { ask } from './sql';

type Row = Record<string, unknown>;

/** Bookkeeping that tells nobody anything. */
const LEFT_OUT = ['seen_by', 'name_key', 'names', 'visible_to', 'version'];

/** Rows as they stand, without what is nobody's to see but the program's, or what fields keep from whoever asks. */
const rowsOf = async (context: Context, from: string, values: Row): Promise<Row[]> => {
  const hidden = await hiddenKeys(context);
  const rows = await ask<{ row: Row }>(
    context,
    `SELECT to_jsonb(t.*) - '{${LEFT_OUT.join(',')}}'::text[] AS row FROM ${from}`,
    values,
  );
  return rows.map(({ row }) =>
    row.custom && hidden.size
      ? { ...row, custom: Object.fromEntries(Object.entries(row.custom).filter(([key]) => !hidden.has(key))) }
      : row,
  );
};

/** By a plain name, what else than rows that point to them says something of a person. */
const FURTHER: Readonly<Record<string, string>> = {
  ledger: 'ledger_entries t WHERE t.id = ANY ($own::uuid[] || $shared::uuid[]) ORDER BY t.at',
  deals: 'deals t WHERE t.id = ANY ($deals::uuid[]) ORDER BY t.created_at',
  projects: 'projects t WHERE t.id = ANY ($projects::uuid[])',
  'answers of leads': 'lead_answers t WHERE t.lead_id = ANY ($leads::uuid[])',
  'tasks on them': 'tasks t WHERE t.id = ANY ($openTasks::uuid[] || $tasks::uuid[])',
  'turn and last contact': 'turns t WHERE t.person_id = $person::uuid',
};

interface Original {
  id: string;
  kind: string;
  at: Date;
}
interface FilePart {
  name: string;
  sha256: string;
}
interface Everything {
  name: string;
  data: Row;
  originals: Original[];
  files: FilePart[];
}

const ENDINGS: Readonly<Record<string, string>> = {
  email: 'eml',
  page: 'html',
  card: 'vcf',
  call: 'json',
  form: 'json',
};

/** What of it whoever asks cannot see; they are told that there is more, not what. */
async function countHidden(context: Context, scope: PersonScope): Promise<number> {
  const parts: [string, readonly string[]][] = [
    ['ledger_entries', [...scope.own, ...scope.shared]],
    ['captures', scope.captures],
    ['deals', scope.deals],
    ['leads', scope.leads],
    ['tasks', [...scope.openTasks, ...scope.tasks]],
  ];
  let hidden = 0;
  for (const [table, ids] of parts) {
    const [seen] = await ask<{ n: number }>(
      context,
      `SELECT count(*)::int AS n FROM ${table} WHERE id = ANY ($ids::uuid[])`,
      { ids },
    );
    hidden += ids.length - (seen?.n ?? 0);
  }
  return hidden;
}

/** Everything about a person that whoever asks may see, and where its bytes are. */
async function collect(context: Context, id: string): Promise<Everything> {
  const known = await loadKnown(context, id);
  if (!known) throw notFound('There is no such person.');
  const scope = await pastSight(context, () => loadScope(context, id, known));
  const data: Row = {
    madeAt: context.now().toISOString(),
    partsYouMayNotSee: await countHidden(context, scope),
  };
  for (const { table, refers = [], export: isExported } of context.tables) {
    if (table === 'people')
      data.person = (await rowsOf(context, 'people t WHERE t.id = $id::uuid', { id }))[0];
    const columns = refers.filter(({ to }) => to === 'people').map(({ column }) => `t.${column} = $id::uuid`);
    if (!isExported || !columns.length) continue;
    data[table.replaceAll('_', ' ')] = await rowsOf(context, `${table} t WHERE ${columns.join(' OR ')}`, {
      id,
    });
  }
  for (const [name, from] of Object.entries(FURTHER)) data[name] = await rowsOf(context, from, { ...scope });
  const originals = await ask<Original>(
    context,
    'SELECT id, kind, received_at AS at FROM captures WHERE id = ANY ($captures::uuid[]) ORDER BY received_at, id',
    { ...scope },
  );
  const files = await ask<FilePart>(
    context,
    'SELECT v.name, v.sha256 FROM files f JOIN file_versions v ON v.file_id = f.id WHERE f.id = ANY ($files::uuid[]) ORDER BY v.at, v.id',
    { ...scope },
  );
  context.write.note({ table: 'people', id, before: { id }, after: { id } });
  await context.write.event(
    HANDS_OVER,
    `Exported everything about ${known.fullName}`,
    context.actor?.id ?? null,
  );
  return { name: known.fullName, data, originals, files };
}

const README = `person.json   everything that stands about the person in Emporikon, by kind
originals/    messages, pages, cards and forms as they came in
files/        files on their record
What colleagues keep private, and what whoever made this export may not see, is not in it; person.json says how much that is.
`;

/** Packs part after part, so that never more than one of them is in memory. */
async function* pack(
  tools: Tools,
  actor: Actor | null,
  { data, originals, files }: Everything,
): AsyncGenerator<Uint8Array> {
  let ready: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    ready.push(chunk);
  });
  const add = (name: string, bytes: Uint8Array, isPacked = false): Uint8Array[] => {
    const part = isPacked ? new ZipPassThrough(name) : new ZipDeflate(name, { level: 6 });
    zip.add(part);
    part.push(bytes, true);
    const made = ready;
    ready = [];
    return made;
  };
  yield* add('README.txt', Buffer.from(README));
  yield* add('person.json', Buffer.from(JSON.stringify(data, null, 2)));
  for (const [at, { id, kind, at: received }] of originals.entries()) {
    const [row] = await runInTransaction(tools, actor, (context) =>
      ask<{ raw: Buffer }>(context, 'SELECT raw FROM captures WHERE id = $id::uuid', { id }),
    );
    const day = received.toISOString().slice(0, 10);
    if (row) yield* add(`originals/${day}-${at + 1}.${ENDINGS[kind] ?? 'txt'}`, row.raw);
  }
  for (const [at, { name, sha256 }] of files.entries()) {
    const bytes = await loadBytes(tools, sha256);
    if (bytes) yield* add(`files/${at + 1}-${safeName(name, at)}`, bytes, true);
  }
  zip.end();
  yield* ready;
}

/** Everything about a person in one file, for whoever asks what is known of them. */
export function mountEverything(app: FastifyInstance, tools: Tools): void {
  app.get<{ Params: { id: string } }>(
    '/api/people/:id/everything.zip',
    {
      config: { right: 'people.delete' },
      schema: fileSchema('GET /api/people/:id/everything.zip', {
        summary: 'Everything about a person, with the originals, as one archive',
        tag: 'privacy',
        mediaType: 'application/zip',
        params: IdParam,
      }),
    },
    async (request, reply) => {
      requireRight(request, 'people.export');
      const everything = await runInTransaction(tools, request.actor, (context) =>
        collect(context, request.params.id),
      );
      return reply
        .type('application/zip')
        .header('content-disposition', disposition(`${everything.name} everything.zip`))
        .send(Readable.from(pack(tools, request.actor, everything)));
    },
  );
}
