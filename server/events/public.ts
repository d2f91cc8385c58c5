import { EVENT_VERSION, type EventType, type PublicEvent } from '@emporikon/contract/events';
import type { Followed } from '../commands/types';
import type { Change } from '../db/models/ledger';

type Row = Record<string, unknown>;
type Told<Type extends EventType> = Type extends EventType ? Pick<PublicEvent<Type>, 'type' | 'data'> : never;
type Tell = <Type extends EventType>(type: Type, data: PublicEvent<Type>['data']) => void;

/** Which tables are records of their own, by the word they have in event types. */
const RECORDS = {
  people: 'person',
  companies: 'company',
  leads: 'lead',
  deals: 'deal',
  tasks: 'task',
} as const;
/** Bookkeeping that nobody outside reads. */
const IGNORED_COLUMNS = new Set([
  'version',
  'createdAt',
  'updatedAt',
  'nameKey',
  'triagedAt',
  'stageSince',
  'statusSince',
]);

const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
const text = (value: unknown): string => String(value ?? '');
const idOrNull = (value: unknown): string | null => (typeof value === 'string' ? value : null);

const changedFields = (before: Row, after: Row): string[] =>
  Object.keys(after).filter((key) => !IGNORED_COLUMNS.has(key) && !isSame(before[key], after[key]));

type RecordWord = (typeof RECORDS)[keyof typeof RECORDS];

function tellCreated(tell: Tell, record: RecordWord, id: string, row: Row): void {
  if (record === 'lead') tell('lead.created', { id, personId: text(row.personId) });
  else tell(`${record}.created`, { id });
}

/** What became of a record of its own: people, companies, leads, deals, next moves. */
function tellRecord(tell: Tell, record: RecordWord, id: string, before: Row, after: Row): void {
  const fields = changedFields(before, after);
  if (fields.length) tell(`${record}.changed`, { id, fields });
  if (record !== 'task' && fields.includes('ownerId'))
    tell(`${record}.owner_changed`, { id, from: idOrNull(before.ownerId), to: idOrNull(after.ownerId) });
  if (record === 'lead') tellLead(tell, id, before, after);
  if (record === 'deal') tellDeal(tell, id, before, after);
  if (record === 'task' && !before.doneAt && after.doneAt) tell('task.done', { id, at: text(after.doneAt) });
}

function tellLead(tell: Tell, id: string, before: Row, after: Row): void {
  if (before.status !== after.status)
    tell('lead.status_changed', { id, from: text(before.status), to: text(after.status) });
  const dealId = idOrNull(after.dealId);
  if (dealId && !before.dealId) tell('lead.converted', { id, dealId });
}

function tellDeal(tell: Tell, id: string, before: Row, after: Row): void {
  if (before.stageId !== after.stageId)
    tell('deal.stage_changed', { id, from: text(before.stageId), to: text(after.stageId) });
  if (!before.closedAt && after.closedAt) tell('deal.closed', { id, reason: idOrNull(after.closeReason) });
  if (before.closedAt && !after.closedAt) tell('deal.reopened', { id });
}

/** A new entry with everything that the same change linked it to. */
function tellEntry(tell: Tell, entry: Row, changes: readonly Change[]): void {
  const links = changes.flatMap(({ table, after }) =>
    table === 'ledger_links' && after && after.entryId === entry.id ? [after] : [],
  );
  const linked = (key: string): string[] => links.flatMap((link) => idOrNull(link[key]) ?? []);
  tell('ledger.entered', {
    id: text(entry.id),
    kind: text(entry.kind),
    side: entry.side as 'theirs' | 'ours' | 'within',
    personIds: linked('personId'),
    companyIds: linked('companyId'),
    leadIds: linked('leadId'),
    dealIds: linked('dealId'),
  });
}

/** What became of rows that are part of something else. */
function tellPart(tell: Tell, { table, id, before, after }: Change, changes: readonly Change[]): void {
  if (table === 'ledger_entries' && !before && after) tellEntry(tell, after, changes);
  if (table === 'ledger_entries' && before && !after) tell('ledger.removed', { id });
  if (table === 'captures' && !before && after)
    tell('capture.received', { id, kind: text(after.kind), cameBy: text(after.cameBy) });
  if (table === 'captures' && before && after && before.state !== after.state) {
    if (after.state === 'filed') tell('capture.filed', { id });
    if (after.state === 'set aside') tell('capture.set_aside', { id });
  }
  if (table === 'form_submissions' && !before && after)
    tell('form.submitted', { id, formId: text(after.formId), captureId: text(after.captureId) });
  if (table === 'calls' && after && before?.state !== after.state)
    tell('call.changed', {
      id,
      direction: after.direction as 'in' | 'out',
      state: text(after.state),
      personId: idOrNull(after.personId),
    });
  if (table === 'contact_points' && !isSame(before?.consent, after?.consent))
    tell('consent.changed', {
      personId: text((after ?? before)?.personId),
      contactId: id,
      state: idOrNull(after?.consent),
    });
}

/** A person of whom a contact detail changed changed too, once however many did. */
function tellContacts(tell: Tell, changes: readonly Change[], told: ReadonlySet<string>): void {
  const people = new Set(
    changes.flatMap(({ table, before, after }) =>
      table === 'contact_points' ? (idOrNull((after ?? before)?.personId) ?? []) : [],
    ),
  );
  for (const id of people) if (!told.has(id)) tell('person.changed', { id, fields: ['contacts'] });
}

/** @returns the records that went into another, which are not removed */
function tellMerges(tell: Tell, changes: readonly Change[]): Set<string> {
  const gone = new Set<string>();
  for (const { table, before, after } of changes) {
    if (table !== 'merges' || before || !after) continue;
    gone.add(text(after.mergedId));
    const data = { id: text(after.mergedId), into: text(after.survivorId) };
    if (after.kind === 'person') tell('person.merged', data);
    else tell('company.merged', data);
  }
  return gone;
}

/**
 * The public events of one change, derived from the rows it wrote. The only place where rows become events that others read.
 */
export function publicEventsOf(event: Followed): PublicEvent[] {
  const { changes } = event;
  const told: Told<EventType>[] = [];
  const tell = ((type, data) => void told.push({ type, data } as Told<EventType>)) as Tell;
  const merged = tellMerges(tell, changes);
  const whole = new Set<string>();
  for (const change of changes) {
    const { table, id, before, after } = change;
    const record = table in RECORDS ? RECORDS[table as keyof typeof RECORDS] : null;
    if (!record) {
      tellPart(tell, change, changes);
      continue;
    }
    if (!before || !after) whole.add(id);
    if (!before && after) tellCreated(tell, record, id, after);
    else if (before && !after && !merged.has(id)) tell(`${record}.removed`, { id });
    else if (before && after) tellRecord(tell, record, id, before, after);
  }
  tellContacts(tell, changes, whole);
  const { id: eventId, actorId, causeId, depth } = event;
  const envelope = {
    version: EVENT_VERSION,
    eventId,
    at: event.at.toISOString(),
    actorId,
    causeId,
    depth,
  } as const;
  return told.map((one) => ({ ...envelope, ...one }) as PublicEvent);
}
