import type { Sight, SightChoice, SightKind } from '@emporikon/contract/visibility';
import { QueryTypes } from 'sequelize';
import { requireActor, type Actor, type Context } from '../commands/context';
import { User } from '../db/models/users';
import { TeamRow } from '../db/models/visibility';
import { forbidden, invalid, notFound } from '../http/problems';
import { kindOfTable, RECORDS } from './records';

interface SightRow {
  label: string | null;
  owners: string[];
  visibility: Sight['visibility'] | null;
  team: Sight['team'];
  people: Sight['people'];
  seen_by: Sight['people'] | null;
}

const NAMED = "json_build_object('id', u.id, 'name', u.name) ORDER BY u.name";

async function loadSight(context: Context, kind: SightKind, id: string): Promise<SightRow> {
  const { table, label, owners } = RECORDS[kind];
  const [row] = await context.sequelize.query<SightRow>(
    `SELECT ${label} AS label, array_remove(ARRAY[${owners.map((owner) => `t.${owner}`).join(', ')}], NULL) AS owners, t.visibility,
            (SELECT json_build_object('id', m.id, 'name', m.name) FROM teams m WHERE t.visibility = 'team' AND m.id = t.visible_to[1]) AS team,
            (SELECT coalesce(json_agg(${NAMED}), '[]') FROM users u WHERE t.visibility = 'named' AND u.id = ANY (t.visible_to)) AS people,
            CASE WHEN t.seen_by IS NOT NULL THEN (SELECT coalesce(json_agg(${NAMED}), '[]') FROM audience_members a JOIN users u ON u.id = a.user_id WHERE a.audience_id = t.seen_by) END AS seen_by
       FROM ${table} t WHERE t.id = :id`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) throw notFound('There is no such record, or you cannot see it.');
  return row;
}

/** What a record belongs to that not everybody may see. Whoever may see the record may see all of this. */
async function loadReasons(context: Context, kind: SightKind, id: string): Promise<Sight['because']> {
  const { table, parents } = RECORDS[kind];
  const links =
    kind === 'ledger'
      ? 'UNION SELECT unnest(ARRAY[k.person_id, k.company_id, k.lead_id, k.deal_id]) FROM ledger_links k WHERE k.entry_id = :id'
      : kind === 'captures'
        ? 'UNION SELECT unnest(ARRAY[k.person_id, k.company_id]) FROM claims k WHERE k.capture_id = :id'
        : '';
  const columns = parents.map((parent) => `t.${parent}`).join(', ');
  const found = await context.sequelize.query<{ id: string; kind: string }>(
    `SELECT r.id, r.kind FROM restricted r WHERE r.id IN (SELECT unnest(ARRAY[${columns}]::uuid[]) FROM ${table} t WHERE t.id = :id ${links})`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const reasons: Sight['because'] = [];
  for (const parent of found) {
    const of = kindOfTable(parent.kind);
    reasons.push({ kind: of, id: parent.id, name: (await loadSight(context, of, parent.id)).label ?? '' });
  }
  return reasons;
}

/** Whose it is, and those who manage, decide who sees it; where it is nobody's, anybody may. */
const mayChange = (actor: Actor, { owners }: Pick<SightRow, 'owners'>): boolean =>
  actor.role !== 'rep' || !owners.length || owners.includes(actor.id);

/** @throws 404 where the actor cannot see the record */
export async function sightOf(context: Context, kind: SightKind, id: string): Promise<Sight> {
  const row = await loadSight(context, kind, id);
  return {
    kind,
    id,
    visibility: row.visibility ?? 'everybody',
    team: row.team,
    people: row.people,
    seenBy: row.seen_by,
    because: await loadReasons(context, kind, id),
    mayChange: mayChange(requireActor(context), row),
  };
}

/**
 * A choice as it is kept.
 * @throws 422 for a team or a person that is not there, or where none is named
 */
export async function visibleTo(context: Context, choice: SightChoice): Promise<string[]> {
  if (choice.visibility === 'team') {
    const team = choice.teamId && (await TeamRow.findByPk(choice.teamId, { transaction: context.tx }));
    if (!team) throw invalid('Nothing was saved: choose a team.', { fields: { teamId: 'is no team' } });
    return [team.id];
  }
  if (choice.visibility !== 'named') return [];
  const ids = [...new Set(choice.peopleIds ?? [])].sort();
  const there = await User.count({ where: { id: ids, active: true }, transaction: context.tx });
  if (!ids.length || there !== ids.length)
    throw invalid('Nothing was saved: choose colleagues who have an account.', {
      fields: { peopleIds: ids.length ? 'names somebody who has no account' : 'names nobody' },
    });
  return ids;
}

const WORDS: Record<SightChoice['visibility'], string> = {
  everybody: 'everybody',
  owner: 'the owner and their managers',
  team: 'a team',
  named: 'named people',
};

/**
 * @throws 403 where it is somebody else's, 404 where the actor cannot see the record, 422 for a choice that lets nobody in
 * @returns the event's id
 */
export async function chooseSight(
  context: Context,
  kind: SightKind,
  id: string,
  choice: SightChoice,
): Promise<string | null> {
  const actor = requireActor(context);
  const row = await loadSight(context, kind, id);
  if (!mayChange(actor, row))
    throw forbidden('Only the owner, a manager or an admin may decide who sees this. Nothing was changed.');
  const { model, noun } = RECORDS[kind];
  if (choice.visibility === 'owner' && !row.owners.length)
    throw invalid(`Nobody owns this ${noun} yet. Give it an owner first; nothing was changed.`, {
      fields: { visibility: 'needs an owner' },
    });
  const record = await model.findByPk(id, { transaction: context.tx, lock: true });
  if (!record) throw notFound('There is no such record, or you cannot see it.');
  await context.write.update(record, {
    visibility: choice.visibility,
    visibleTo: await visibleTo(context, choice),
  });
  return context.write.event(
    'change visibility',
    `Made the ${noun}${row.label ? ` “${row.label.slice(0, 60)}”` : ''} visible to ${WORDS[choice.visibility]}`,
    actor.id,
  );
}
