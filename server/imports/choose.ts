import { createHash } from 'node:crypto';
import type { Mapping } from '@emporikon/contract/imports';
import { guessRecordFields } from '@emporikon/core/reading/table/records';
import { shapeKey } from '@emporikon/core/reading/table/read';
import { NOT_READ } from '@emporikon/core/fields/own';
import { Op, QueryTypes } from 'sequelize';
import { requireActor, type Context, type Tools } from '../commands/context';
import { CustomField } from '../db/models/fields';
import { Import } from '../db/models/imports';
import { early, type Handlers } from '../http/mount';
import { conflict, invalid, notFound } from '../http/problems';
import type { BenchReading } from '../reading/bench';
import { keepFile, loadFile } from './file';
import { importDetail, loadImport } from './view';

export const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex');

async function remembered(context: Context, key: string): Promise<Mapping | null> {
  const [row] = await context.sequelize.query<{ mapping: Mapping }>(
    'SELECT mapping FROM import_shapes WHERE key = :key',
    {
      replacements: { key },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return row?.mapping ?? null;
}

/** What is kept of a table's columns; how a file of this shape was mapped before is used again. */
async function columnsOf(
  context: Context,
  read: BenchReading,
  sheet: number,
): Promise<Pick<Import, 'reading' | 'mapping' | 'total'>> {
  if (read.kind === 'cards') return { reading: null, mapping: null, total: read.total };
  const { shape, encoding, separator, sheets, total } = read;
  const before = await remembered(context, hashOf(shapeKey(shape)));
  const columns = shape.columns.map((column) => {
    const own = before?.columns.find((one) => one.index === column.index);
    return own ? { ...column, field: own.field, type: own.type, by: 'hand' as const } : column;
  });
  return {
    reading: { ...shape, columns, encoding, separator, sheets, remembered: before !== null },
    mapping: {
      columns: columns.map(({ index, field, type }) => ({ index, field, type })),
      hasHead: shape.hasHead,
      dates: before?.dates ?? shape.dates,
      country: before?.country ?? null,
      sheet,
    },
    total,
  };
}

async function readFile(tools: Tools, raw: Uint8Array, sheet: number): Promise<BenchReading> {
  const custom = await CustomField.findAll({
    attributes: ['key', 'label'],
    where: { record: 'person', kind: { [Op.notIn]: [...NOT_READ] } },
  });
  return tools.readers.run('readBench', {
    raw,
    custom: custom.map(({ key, label }) => ({ key, label })),
    sheet,
  });
}

/** How a file comes in, which of its sheets is read, and what its rows are. */
export const chooseHandlers: Handlers = {
  'POST /api/imports': early(async ({ query, request, tools, perform: performOnce }) => {
    const { body } = request;
    if (!Buffer.isBuffer(body) || !body.length)
      throw invalid('There is nothing in it; nothing was imported.');
    const read = await readFile(tools, body, 0);
    return performOnce(async (context) => {
      const one = await context.write.insert(Import, {
        id: context.newId(),
        name: query.name,
        createdBy: requireActor(context).id,
        createdAt: context.now(),
        kind: read.kind,
        state: 'mapping',
        ...(await columnsOf(context, read, 0)),
      });
      await keepFile(context, one.id, body);
      await context.write.event('add import', `Added ${query.name} to be imported`, requireActor(context).id);
      return importDetail(context, one.id);
    });
  }),
  'POST /api/imports/:id/sheet': early(async ({ params, body, tools, perform: performOnce }) => {
    const file = await Import.findByPk(params.id);
    if (!file) throw notFound('There is no such import.');
    if (!file.reading?.sheets?.[body.sheet])
      throw invalid('There is no such sheet.', { fields: { sheet: 'does not exist' } });
    const read = await readFile(tools, await loadFile(tools, file.id), body.sheet);
    return performOnce(async (context) => {
      const one = await loadImport(context, params.id, true);
      if (!['mapping', 'previewing', 'previewed', 'failed'].includes(one.state))
        throw conflict('This import has started, so its sheet cannot change.');
      await context.write.update(
        one,
        { ...(await columnsOf(context, read, body.sheet)), state: 'mapping', counts: {}, done: 0 },
        body.version,
      );
      await context.write.event(
        'choose sheet',
        `Chose another sheet of ${one.name}`,
        requireActor(context).id,
      );
      return importDetail(context, one.id);
    });
  }),
  'POST /api/imports/:id/target': async ({ params, body, context }) => {
    const one = await loadImport(context, params.id, true);
    if (!['mapping', 'previewing', 'previewed', 'failed'].includes(one.state))
      throw conflict('This import has started, so what its rows are cannot change.');
    if (!one.reading || !one.mapping) throw conflict('A file of cards holds people.');
    const { target } = body;
    const fields =
      target === 'people'
        ? one.reading.columns.map((column) => column.field)
        : guessRecordFields(
            target,
            one.reading.columns.map((column) => column.heading),
          );
    const columns = one.reading.columns.map(({ index, type }, at) => ({
      index,
      field: fields[at] ?? 'none',
      type: target === 'people' ? type : null,
    }));
    await context.write.update(
      one,
      { mapping: { ...one.mapping, target, columns }, state: 'mapping', counts: {}, done: 0 },
      body.version,
    );
    await context.write.event(
      'choose target',
      `Imports ${target} from ${one.name}`,
      requireActor(context).id,
    );
    return importDetail(context, one.id);
  },
};
