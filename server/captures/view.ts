import type { CaptureDetail, CaptureRow, Claim } from '@emporikon/contract/captures';
import type { Intent } from '@emporikon/contract/intents';
import { mayBeHidden } from '../people/hidden';
import { freeDaysFor } from '../calendar/free';
import { proposeMove } from '@emporikon/core/ledger/nextMove';
import { headingOf } from '@emporikon/core/reading/heading';
import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { QueryTypes } from 'sequelize';
import { localNow, type Context } from '../commands/context';
import { Capture, ClaimRow, IntentRow } from '../db/models/captures';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';
import { knownPeople } from '../people/known';
import { safeName } from './attachments';
import { filedMessages, messageKey, partnerOf } from './conversation';
import { listedPeople } from './listed';
import { peopleOnMessage } from './onMessage';
import { openWork } from './openWork';
import { recognise } from './recognise';

export const asIntent = (row: IntentRow): Intent =>
  ({
    id: row.id,
    kind: row.kind,
    text: row.text,
    value: row.value,
    span: row.span,
    confidence: row.confidence,
    fate: row.fate,
  }) as Intent;

/** Claims as the contract shows them, with the names of those who made them by hand. */
export async function asClaims(context: Context, rows: readonly ClaimRow[]): Promise<Claim[]> {
  const actors = [...new Set(rows.map((row) => row.actorId).filter((id): id is string => id !== null))];
  const names = new Map(
    (actors.length ? await User.findAll({ where: { id: actors }, transaction: context.tx }) : []).map(
      (user) => [user.id, user.name],
    ),
  );
  return rows.map((row) => ({
    id: row.id,
    field: row.field,
    value: row.value,
    normalized: row.normalized,
    type: row.type,
    confidence: row.confidence,
    span: row.span,
    source: row.source,
    byHand: row.byHand,
    fate: row.fate,
    captureId: row.captureId,
    lookUpId: row.lookUpId ?? null,
    at: row.createdAt.toISOString(),
    actor: row.actorId ? (names.get(row.actorId) ?? null) : null,
  }));
}

/** What a row of Arrivals shows. */
export const asRow = (capture: Capture, claimedName?: string): CaptureRow => ({
  id: capture.id,
  kind: capture.kind,
  state: capture.state,
  ...headingOf(capture.kind, capture.message, claimedName),
  receivedAt: capture.receivedAt.toISOString(),
  side: capture.message.side,
  nature: capture.message.nature ?? null,
});

/** A capture without its raw bytes. @throws 404 */
export async function loadCapture(context: Context, id: string, lock = false): Promise<Capture> {
  const capture = await Capture.findByPk(id, {
    attributes: { exclude: ['raw'] },
    transaction: context.tx,
    lock,
  });
  if (!capture) throw notFound('There is no such capture.');
  return capture;
}

export const loadClaims = (context: Context, captureId: string): Promise<ClaimRow[]> =>
  ClaimRow.findAll({
    where: { captureId },
    order: [
      ['createdAt', 'ASC'],
      ['confidence', 'DESC'],
      ['id', 'ASC'],
    ],
    transaction: context.tx,
  });

export const loadIntents = (context: Context, captureId: string | string[]): Promise<IntentRow[]> =>
  IntentRow.findAll({ where: { captureId }, transaction: context.tx });

const FIELD_ORDER: readonly string[] = CLAIM_FIELDS;
const placeOf = (field: string): number => {
  const at = FIELD_ORDER.indexOf(field);
  return at < 0 ? FIELD_ORDER.length : at;
};

interface FiledRow {
  event_id: string;
  person_id: string | null;
  person: string | null;
  company_id: string | null;
  company: string | null;
  lead_id: string | null;
  lead: string | null;
  deal_id: string | null;
  deal: string | null;
  about_case: { id: string; name: string } | null;
  project: { id: string; name: string } | null;
}

/** Where a filed capture went, from its ledger entry, and the event that would undo it. */
async function filedAs(context: Context, capture: Capture): Promise<CaptureDetail['filedAs']> {
  if (capture.state !== 'filed') return null;
  const [row] = await context.sequelize.query<FiledRow>(
    `SELECT (SELECT e.id FROM events e WHERE e.command = 'file capture' AND e.changes @> jsonb_build_array(jsonb_build_object('table', 'captures', 'id', :id::text))
              AND NOT EXISTS (SELECT 1 FROM events u WHERE u.undoes = e.id) ORDER BY e.at DESC, e.seq DESC LIMIT 1) AS event_id,
            (array_agg(p.id::text ORDER BY n.created_at, k.id) FILTER (WHERE p.id IS NOT NULL))[1] AS person_id,
            (array_agg(p.full_name ORDER BY n.created_at, k.id) FILTER (WHERE p.id IS NOT NULL))[1] AS person,
            (array_agg(c.id::text ORDER BY n.created_at, k.id) FILTER (WHERE c.id IS NOT NULL))[1] AS company_id,
            (array_agg(c.name ORDER BY n.created_at, k.id) FILTER (WHERE c.id IS NOT NULL))[1] AS company,
            (array_agg(l.id::text ORDER BY n.created_at, k.id) FILTER (WHERE l.id IS NOT NULL))[1] AS lead_id,
            (array_agg(l.title ORDER BY n.created_at, k.id) FILTER (WHERE l.id IS NOT NULL))[1] AS lead,
            (array_agg(d.id::text ORDER BY n.created_at, k.id) FILTER (WHERE d.id IS NOT NULL))[1] AS deal_id,
            (array_agg(d.title ORDER BY n.created_at, k.id) FILTER (WHERE d.id IS NOT NULL))[1] AS deal,
            (SELECT jsonb_build_object('id', s.id, 'name', s.title) FROM ledger_entries e JOIN ledger_links w ON w.entry_id = e.id JOIN cases s ON s.id = w.case_id
              WHERE e.capture_id = :id LIMIT 1) AS about_case,
            (SELECT jsonb_build_object('id', j.id, 'name', j.title) FROM ledger_entries e JOIN ledger_links w ON w.entry_id = e.id JOIN projects j ON j.id = w.project_id
              WHERE e.capture_id = :id LIMIT 1) AS project
       FROM ledger_entries n JOIN ledger_links k ON k.entry_id = n.id
       LEFT JOIN people p ON p.id = k.person_id LEFT JOIN companies c ON c.id = k.company_id LEFT JOIN leads l ON l.id = k.lead_id LEFT JOIN deals d ON d.id = k.deal_id
      WHERE n.capture_id = :id`,
    { replacements: { id: capture.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) return null;
  const named = (id: string | null, name: string | null): { id: string; name: string } | null =>
    id && name ? { id, name } : null;
  return {
    person: named(row.person_id, row.person),
    company: named(row.company_id, row.company),
    lead: named(row.lead_id, row.lead),
    deal: named(row.deal_id, row.deal),
    case: row.about_case,
    project: row.project,
    eventId: row.event_id,
  };
}

/** Everything Arrivals shows of one capture. */
export async function captureDetail(
  context: Context,
  id: string,
  others: readonly string[] = [],
): Promise<CaptureDetail> {
  const capture = await loadCapture(context, id);
  const claimRows = await loadClaims(context, id);
  const intents = (await loadIntents(context, id)).map(asIntent).sort((a, b) => a.span.start - b.span.start);
  const live = claimRows.filter((claim) => claim.fate === 'proposed' || claim.fate === 'current');
  const shown = claimRows
    .filter((claim) => claim.fate !== 'superseded')
    .sort((a, b) => placeOf(a.field) - placeOf(b.field));
  const { person: byFacts, company, facts } = await recognise(context, live);
  const person = (await partnerOf(context, capture)) ?? byFacts;
  const { message } = capture;
  const [known] = person.kind === 'same' ? await knownPeople(context, [person.matches[0]?.id ?? '']) : [];
  const filed = await filedMessages(context, capture);
  const { page } = message;
  return {
    ...asRow(capture, facts.person.fullName),
    version: capture.version,
    sha256: capture.sha256,
    cameBy: capture.cameBy,
    sentAt: message.sentAt,
    sender: message.from,
    to: message.to,
    body: message.body,
    text: message.text,
    attachments: message.attachments.map((attachment, index) => ({
      ...attachment,
      name: safeName(attachment.name, index),
      href: `/api/captures/${id}/attachments/${index}`,
    })),
    notices: capture.notices,
    digest: message.digest ?? '',
    tone: message.tone ?? null,
    page: page
      ? {
          url: page.url,
          kind: page.kind,
          conversation: page.conversation.map((said) => ({
            from: said.from,
            at: said.at,
            text: said.text,
            filed: filed.has(messageKey(page.url, said)),
          })),
        }
      : null,
    listed: await listedPeople(context, capture),
    known: known
      ? {
          person: known.person,
          owner: known.owner,
          turn: known.turn,
          nextMove: known.nextMove,
          tags: known.tags,
        }
      : null,
    onMessage: await peopleOnMessage(context, capture, facts.person.emails),
    others: [...others],
    claims: await asClaims(context, shown),
    intents,
    verdict: {
      person,
      company,
      companyName: facts.company?.name ?? null,
      hidden: await mayBeHidden(context, facts.person, facts.company),
    },
    openWork: await openWork(
      context,
      person.matches.map((match) => match.id),
    ),
    proposedMove: proposeMove(
      intents.filter((intent) => intent.fate === 'proposed'),
      localNow(context),
      context.actor?.timeZone ?? 'utc',
      await freeDaysFor(context, context.actor?.id ?? null),
    ),
    filedAs: await filedAs(context, capture),
  };
}
