import type { Parsed } from '@emporikon/contract';
import { WrittenKind, type About } from '@emporikon/contract/ledger';
import { requireActor, type Context } from '../commands/context';
import { rowOf } from '../commands/writer';
import { LedgerEntry, LedgerLink, LedgerRevision } from '../db/models/ledger';
import { forbidden, invalid, notFound, stale } from '../http/problems';
import { concerned } from './concerned';
import { releaseAnnotations } from './keepAnnotation';
import { enter, linkEntry, readingOf } from './write';

const RECORDS = ['personId', 'companyId', 'leadId', 'dealId', 'projectId', 'caseId'] as const;

async function loadEntry(context: Context, id: string): Promise<LedgerEntry> {
  const entry = await LedgerEntry.findByPk(id, { transaction: context.tx, lock: true });
  if (!entry) throw notFound('There is no such entry.');
  return entry;
}

type Patch = Parsed<'PATCH /api/ledger/:id', 'body'>;

/** Of a change that somebody made they can say or mend why, and nothing else. */
const isReason = (entry: LedgerEntry, patch: Patch): boolean =>
  entry.kind === 'change' &&
  !entry.settles &&
  patch.body !== undefined &&
  Object.keys(patch).every((key) => key === 'body' || key === 'version');

/** What somebody wrote is theirs to change; what came in, and what the program noted, stays as it is. */
function requireAuthor(context: Context, entry: LedgerEntry, patch: Patch): void {
  if (entry.captureId || !(WrittenKind.safeParse(entry.kind).success || isReason(entry, patch)))
    throw forbidden('What came in is kept as it is. Write a note beside it instead.');
  if (entry.actorId !== requireActor(context).id)
    throw forbidden('Only the colleague who wrote this can change it. Write a note beside it instead.');
}

/** @throws 422 for a time that is not over */
function requirePast(context: Context, at: Date): Date {
  if (at > new Date(context.now().getTime() + CLOCKS_DIFFER_MS))
    throw invalid('What is still to come is a next move, not an entry.', {
      fields: { at: 'is in the future' },
    });
  return at;
}
const CLOCKS_DIFFER_MS = 5 * 60_000;

/** Only of what was talked about it is said how it went. */
const outcomeFor = <Outcome>(kind: string, outcome: Outcome | null): Outcome | null =>
  ['call', 'meeting', 'visit'].includes(kind) ? outcome : null;

/** Enters what happened, at any time in the past, on all the records it belongs to. */
export async function enterWritten(
  context: Context,
  { about, body = '', at, outcome = null, ...said }: Parsed<'POST /api/ledger/entries', 'body'>,
): Promise<{ id: string; eventId: string | null }> {
  const time = at ? requirePast(context, new Date(at)) : context.now();
  const [first, ...others] = about;
  if (!first) throw invalid('Say who or what this is about.', { fields: { about: 'is missing' } });
  const entry = await enter(
    context,
    { ...said, body, at: time, outcome: outcomeFor(said.kind, outcome) },
    await concerned(context, first),
  );
  for (const record of others) await linkEntry(context, entry.id, await concerned(context, record));
  const eventId = await context.write.event(
    'write entry',
    `Entered “${said.headline.slice(0, 60)}”`,
    requireActor(context).id,
  );
  return { id: entry.id, eventId };
}

/** Keeps what an entry said until now. */
const keepRevision = (context: Context, entry: LedgerEntry): Promise<LedgerRevision> =>
  context.write.insert(LedgerRevision, {
    id: context.newId(),
    entryId: entry.id,
    headline: entry.headline,
    body: entry.body,
    kind: entry.kind,
    at: entry.at,
    outcome: entry.outcome ?? null,
    until: context.now(),
  });

async function unlink(context: Context, entry: LedgerEntry, about: About): Promise<void> {
  const links = await LedgerLink.findAll({ where: { entryId: entry.id }, transaction: context.tx });
  const going = links.filter((link) => RECORDS.some((key) => about[key] && link[key] === about[key]));
  if (going.length === links.length)
    throw invalid('An entry belongs to one record at least.', { fields: { unlink: 'is the last one' } });
  for (const link of going) await context.write.remove(link);
}

async function rewrite(context: Context, entry: LedgerEntry, patch: Patch): Promise<void> {
  const { version, at, outcome } = patch;
  const kind = patch.kind ?? entry.kind;
  const words = {
    kind,
    headline: patch.headline ?? entry.headline,
    body: patch.body ?? entry.body,
    at: at ? requirePast(context, new Date(at)) : entry.at,
    outcome: outcomeFor(kind, outcome === undefined ? (entry.outcome ?? null) : outcome),
    side:
      kind === 'note' || kind === 'change'
        ? ('within' as const)
        : entry.side === 'within'
          ? ('ours' as const)
          : entry.side,
  };
  if (version !== undefined && version !== entry.version) throw stale(rowOf(entry));
  await keepRevision(context, entry);
  await context.write.update(
    entry,
    { ...words, said: '', reading: readingOf(words), editedAt: context.now() },
    version,
  );
}

const CONTENT = ['kind', 'headline', 'body', 'at', 'outcome'] as const;
const isSame = (entry: LedgerEntry, patch: Patch): boolean =>
  CONTENT.every((key) => {
    const value = patch[key];
    if (value === undefined) return true;
    return key === 'at' ? Date.parse(String(value)) === entry.at.getTime() : value === (entry[key] ?? null);
  });

/**
 * Changes an entry: its words by who wrote it, what it is pinned and linked to by anybody.
 * @throws 403 for words of somebody else, 409 when they were changed meanwhile
 */
export async function changeEntry(
  context: Context,
  id: string,
  patch: Patch,
): Promise<{ version: number; eventId: string | null }> {
  const entry = await loadEntry(context, id);
  if (!isSame(entry, patch)) {
    requireAuthor(context, entry, patch);
    await rewrite(context, entry, patch);
  }
  const { isPinned, link, unlink: going } = patch;
  if (isPinned !== undefined && isPinned !== (entry.pinnedAt !== null))
    await context.write.update(entry, { pinnedAt: isPinned ? context.now() : null });
  if (link) await linkEntry(context, id, await concerned(context, link));
  if (going) await unlink(context, entry, going);
  const eventId = await context.write.event(
    'change entry',
    `Changed “${entry.headline.slice(0, 60)}”`,
    requireActor(context).id,
  );
  return { version: entry.version, eventId };
}

/** Removes an entry with what it said before and what it is linked to; what colleagues wrote beside it stays theirs. */
export async function removeEntryRows(context: Context, entry: LedgerEntry): Promise<void> {
  await releaseAnnotations(context, entry);
  for (const model of [LedgerRevision, LedgerLink] as const)
    for (const row of await (model as typeof LedgerLink).findAll({
      where: { entryId: entry.id },
      transaction: context.tx,
    }))
      await context.write.remove(row);
  await context.write.remove(entry);
}

/** Removes what somebody wrote themselves; it can be taken back. */
export async function removeEntry(context: Context, id: string): Promise<{ eventId: string | null }> {
  const entry = await loadEntry(context, id);
  requireAuthor(context, entry, {});
  await removeEntryRows(context, entry);
  const eventId = await context.write.event(
    'remove entry',
    `Removed “${entry.headline.slice(0, 60)}”`,
    requireActor(context).id,
  );
  return { eventId };
}
