import type { ErasureCounts } from '@emporikon/contract/privacy';
import { redactor } from '@emporikon/core/privacy/redact';
import type { Context } from '../commands/context';
import { ERASES } from '../commands/followers';
import { lockNames } from '../commands/locks';
import { pastSight } from '../commands/sight';
import { Person } from '../db/models/people';
import { conflict, notFound } from '../http/problems';
import { keepMarks } from './marks';
import { redactEvents } from './redactEvents';
import { redactTexts } from './redactRows';
import {
  identityOf,
  keysOf,
  loadKnown,
  loadScope,
  PERSONAL,
  type KnownPerson,
  type PersonScope,
} from './scope';
import { ask, change } from './sql';
import { ABOUT, eraseStatements } from './statements';

export type ErasureReason = 'asked' | 'time';

const countsOf = (
  { contacts, claims }: KnownPerson,
  scope: PersonScope,
  redacted: number,
): ErasureCounts => ({
  contacts: contacts.length,
  facts: claims.length,
  entries: scope.own.length,
  captures: scope.captures.length,
  files: scope.files.length,
  calls: scope.calls.length,
  openTasks: scope.openTasks.length,
  leads: scope.leads.length,
  cases: scope.cases.length,
  deals: scope.deals.length,
  redacted,
});

async function load(context: Context, id: string): Promise<{ known: KnownPerson; scope: PersonScope }> {
  const known = await loadKnown(context, id);
  if (!known) throw notFound('There is no such person.');
  return { known, scope: await loadScope(context, id, known) };
}

/** What stands in the way of erasing: what runs with their data in hand would bring it back. */
async function findObstacles(
  context: Context,
  { person, imports, own, openTasks, leads, cases, calls }: PersonScope,
  mentions: readonly string[],
): Promise<string[]> {
  const [busy] = await ask<{ imports: number; sending: number }>(
    context,
    `SELECT (SELECT count(*)::int FROM imports WHERE id = ANY ($imports::uuid[]) AND state IN ('running', 'undoing', 'previewing', 'reading')) AS imports,
            (SELECT count(*)::int FROM outbox WHERE state = 'sending' AND (${ABOUT} OR payload::text ILIKE ANY ($mentions::text[]))) AS sending`,
    { person, imports, own, openTasks, leads, cases, calls, mentions },
  );
  return [
    ...(busy?.imports ? ['an import with their data is running'] : []),
    ...(busy?.sending ? ['something is being sent to them'] : []),
  ];
}

const likeOf = (text: string): string => `%${text.replace(/[\\%_]/g, '\\$&')}%`;
const emailsOf = ({ contacts }: KnownPerson): string[] =>
  contacts
    .filter(({ kind }) => kind === 'email')
    .flatMap(({ value, normalized }) => [value.toLowerCase(), normalized]);
/** What only they are told by, in rows of which nothing else says whose they are. */
const mentionsOf = (id: string, known: KnownPerson): string[] => [
  likeOf(id),
  ...known.contacts
    .filter(({ kind }) => PERSONAL.has(kind))
    .flatMap(({ value, normalized }) => [likeOf(value), likeOf(normalized)]),
];

/** What erasing somebody would take and keep. Counted whether or not whoever asks may see each part of it. */
export async function previewErasure(
  context: Context,
  id: string,
): Promise<{ counts: ErasureCounts; obstacles: string[] }> {
  if (!(await Person.findByPk(id, { transaction: context.tx }))) throw notFound('There is no such person.');
  return pastSight(context, async () => {
    const { known, scope } = await load(context, id);
    return {
      counts: countsOf(known, scope, scope.shared.length),
      obstacles: await findObstacles(context, scope, mentionsOf(id, known)),
    };
  });
}

/** Runs all statements on what was found, and puts the hashes of who it was in the place. */
async function take(
  context: Context,
  id: string,
  reason: ErasureReason,
  note: string,
): Promise<ErasureCounts> {
  await lockNames(context, [`person/${id}`]);
  const { known, scope } = await load(context, id);
  const mentions = mentionsOf(id, known);
  const obstacles = await findObstacles(context, scope, mentions);
  if (obstacles.length)
    throw conflict(`Nothing was erased, as ${obstacles.join(' and ')}. Try again when that has ended.`);
  const identity = identityOf(known);
  const redact = redactor(identity);
  const redactOthers = redactor({
    ...identity,
    names: [known.fullName, ...known.merged.map(({ fullName }) => fullName)],
  });
  await ask(context, "SELECT set_config('emporikon.erasing', 'on', true)", {});
  const words = (
    await ask<{ word: string }>(
      context,
      `SELECT word FROM find_words WHERE id = $id::uuid OR id = ANY ($leads::uuid[])
        UNION SELECT regexp_split_to_table(folded(name), '[^[:alnum:]]+') FROM unnest($names::text[]) name`,
      { id, leads: scope.leads, names: [...identity.names] },
    )
  ).map(({ word }) => word);
  const contents = (
    await ask<{ sha256: string }>(
      context,
      'SELECT DISTINCT sha256 FROM file_versions WHERE file_id = ANY ($files::uuid[])',
      { files: scope.files },
    )
  ).map(({ sha256 }) => sha256);
  const emails = emailsOf(known);
  const letters = (
    await ask<{ id: string }>(
      context,
      `SELECT id FROM letters WHERE person_id = $id::uuid
          OR id IN (SELECT letter_id FROM letter_recipients WHERE person_id = $id::uuid OR lower(address) = ANY ($emails::text[]))`,
      { id, emails },
    )
  ).map((letter) => letter.id);
  const redacted = await redactTexts(context, scope, redact);
  await redactEvents(
    context,
    {
      person: id,
      gone: [
        ...known.contacts.map((one) => one.id),
        ...known.claims.map((one) => one.id),
        ...known.merged.map((one) => one.id),
        ...[scope.own, scope.captures, scope.calls, scope.openTasks, scope.files, letters].flat(),
      ],
      emptied: [...scope.leads, ...scope.cases],
      kept: [scope.shared, scope.deals, scope.projects, scope.tasks, scope.imports].flat(),
    },
    { redact, redactOthers },
  );
  const values = {
    ...scope,
    emails,
    letters,
    tags: known.tags,
    names: [known.fullName, ...known.merged.map(({ fullName }) => fullName)].filter(Boolean).map(likeOf),
    mentions,
    words,
    contents,
    now: context.now(),
  };
  for (const { sql } of eraseStatements(context.tables)) await change(context, sql, values);
  const counts = countsOf(
    known,
    scope,
    Object.values(redacted).reduce((sum, n) => sum + n, 0),
  );
  const erasure = context.newId();
  await ask(
    context,
    `INSERT INTO erasures (id, person_id, at, erased_by, reason, note, counts) VALUES ($erasure::uuid, $id::uuid, $now::timestamptz, $by::uuid, $reason, $note, $counts::jsonb)`,
    {
      erasure,
      id,
      now: context.now(),
      by: context.actor?.id ?? null,
      reason,
      note,
      counts: JSON.stringify(counts),
    },
  );
  await keepMarks(context, erasure, keysOf(known));
  await ask(context, "SELECT set_config('emporikon.erasing', '', true)", {});
  return counts;
}

/**
 * Erases a person for good: facts, captures and what was said with them go, wherever it stands; what is counted (leads,
 * deals, entries with their time and kind) stays and says nothing of them. Cannot be undone.
 * @throws 404 where there is nobody, 409 while something runs that would bring their data back
 */
export async function erasePerson(
  context: Context,
  id: string,
  { reason, note = '' }: { reason: ErasureReason; note?: string },
): Promise<ErasureCounts> {
  if (!(await Person.findByPk(id, { transaction: context.tx }))) throw notFound('There is no such person.');
  const counts = await pastSight(context, () => take(context, id, reason, note));
  context.write.note({
    table: 'people',
    id,
    before: { id },
    after: { id, erasedAt: context.now().toISOString() },
  });
  await context.write.event(ERASES, 'Erased a person', context.actor?.id ?? null);
  return counts;
}
