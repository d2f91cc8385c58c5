import type { Parsed } from '@emporikon/contract';
import { requireActor, type Actor, type Context } from '../commands/context';
import { FileVersion, StoredFile } from '../db/models/files';
import { LedgerEntry } from '../db/models/ledger';
import { Task } from '../db/models/tasks';
import { forbidden, invalid, notFound } from '../http/problems';
import { removeEntryRows } from '../ledger/change';
import { concerned } from '../ledger/concerned';
import { enter, linkAlike } from '../ledger/write';
import { contentOf, keepOrRefuse, type NewContent } from './contents';
import { fileRowsOf } from './rows';

type Where = Omit<Parsed<'POST /api/files', 'query'>, 'name'>;

async function loadFile(context: Context, id: string): Promise<StoredFile> {
  const file = await StoredFile.findByPk(id, { transaction: context.tx, lock: true });
  if (!file) throw notFound('There is no such file.');
  return file;
}

const addVersion = (
  context: Context,
  { id, number, name, addedBy, at }: StoredFile,
  { sha256 }: NewContent,
  entryId: string | null,
): Promise<FileVersion> =>
  context.write.insert(FileVersion, {
    id: context.newId(),
    fileId: id,
    entryId,
    number,
    name,
    sha256,
    addedBy,
    at,
  });

/** Puts a file with its first version on an entry or a task. */
export async function makeFile(
  context: Context,
  content: NewContent,
  on: { entryId: string } | { taskId: string },
): Promise<StoredFile> {
  await keepOrRefuse(context, content);
  const file = await context.write.insert(StoredFile, {
    id: context.newId(),
    entryId: null,
    taskId: null,
    ...on,
    name: content.name,
    number: 1,
    addedBy: context.actor?.id ?? null,
    at: context.now(),
  });
  await addVersion(context, file, content, file.entryId);
  return file;
}

async function placeFor(
  context: Context,
  { taskId, ...about }: Where,
  name: string,
): Promise<{ entryId: string } | { taskId: string }> {
  if (taskId) {
    if (!(await Task.findByPk(taskId, { transaction: context.tx })))
      throw invalid('There is no such task.', { fields: { taskId: 'does not exist' } });
    return { taskId };
  }
  const entry = await enter(
    context,
    { side: 'within', kind: 'file', headline: name },
    await concerned(context, about),
  );
  return { entryId: entry.id };
}

/** Adds a file to a record, whose ledger tells of it, or to a task. @throws 422 for what is not taken */
export async function addFile(
  context: Context,
  content: NewContent,
  where: Where,
): Promise<{ id: string; eventId: string | null }> {
  const file = await makeFile(context, content, await placeFor(context, where, content.name));
  const eventId = await context.write.event(
    'add file',
    `Added the file ${content.name}`,
    requireActor(context).id,
  );
  return { id: file.id, eventId };
}

/** An entry for a newer version, on everything that the file belongs to. */
async function tellOfVersion(context: Context, entryId: string, words: string): Promise<string> {
  const entry = await enter(context, { side: 'within', kind: 'file', headline: words }, {});
  await linkAlike(context, entry.id, entryId);
  return entry.id;
}

/** Adds a newer version; a file that holds the same already stays as it is. */
export async function addFileVersion(
  context: Context,
  id: string,
  given: NewContent,
): Promise<{ number: number; eventId: string | null }> {
  const file = await loadFile(context, id);
  const content = given.name ? given : contentOf(file.name, given.raw);
  const newest = await FileVersion.findOne({
    where: { fileId: id, number: file.number },
    rejectOnEmpty: true,
    transaction: context.tx,
  });
  if (newest.sha256 === content.sha256) return { number: file.number, eventId: null };
  await keepOrRefuse(context, content);
  const number = file.number + 1;
  const { name } = content;
  await context.write.update(file, { number, name, at: context.now(), addedBy: requireActor(context).id });
  const entryId = file.entryId
    ? await tellOfVersion(context, file.entryId, `${name}, version ${number}`)
    : null;
  await addVersion(context, file, content, entryId);
  const eventId = await context.write.event(
    'add file version',
    `Added version ${number} of ${name}`,
    requireActor(context).id,
  );
  return { number, eventId };
}

export async function renameFile(
  context: Context,
  id: string,
  { version, name }: Parsed<'PATCH /api/files/:id', 'body'>,
): Promise<{ eventId: string | null }> {
  const file = await loadFile(context, id);
  const entry = file.entryId ? await LedgerEntry.findByPk(file.entryId, { transaction: context.tx }) : null;
  if (entry?.kind === 'file' && entry.headline === file.name)
    await context.write.update(entry, { headline: name });
  await context.write.update(file, { name }, version);
  const newest = await FileVersion.findOne({
    where: { fileId: id, number: file.number },
    rejectOnEmpty: true,
    transaction: context.tx,
  });
  await context.write.update(newest, { name });
  return {
    eventId: await context.write.event('rename file', `Renamed a file ${name}`, requireActor(context).id),
  };
}

/** Who added a file may remove it; what came by mail, and what others added, a manager. */
export const mayRemove = ({ id, role }: Actor, addedBy: string | null): boolean =>
  role !== 'rep' || addedBy === id;

/** Removes a file, and the entries that tell of nothing else. */
export async function removeFile(context: Context, id: string): Promise<{ eventId: string | null }> {
  const file = await loadFile(context, id);
  const first = await FileVersion.findOne({ where: { fileId: id, number: 1 }, transaction: context.tx });
  if (!mayRemove(requireActor(context), first?.addedBy ?? null))
    throw forbidden('Only the colleague who added this file, or a manager, can remove it.');
  const rows = await fileRowsOf(context, { id });
  const entryIds = rows.flatMap((row) => (row instanceof FileVersion && row.entryId ? [row.entryId] : []));
  for (const row of rows) await context.write.remove(row);
  for (const entryId of new Set(entryIds)) {
    const entry = await LedgerEntry.findByPk(entryId, { transaction: context.tx, lock: true });
    if (entry?.kind === 'file') await removeEntryRows(context, entry);
  }
  return {
    eventId: await context.write.event(
      'remove file',
      `Removed the file ${file.name}`,
      requireActor(context).id,
    ),
  };
}
