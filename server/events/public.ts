import { EVENT_VERSION, type EventType, type PublicEvent } from '@emporikon/contract/events';
import type { ConsentState, Reach } from '@emporikon/core/outreach/consent';
import type { Followed } from '../commands/types';
import type { Change } from '../db/models/ledger';

type Row = Record<string, unknown>;
type UntypedEvent<Type extends EventType> = Type extends EventType
  ? Pick<PublicEvent<Type>, 'type' | 'data'>
  : never;
type Emit = <Type extends EventType>(type: Type, data: PublicEvent<Type>['data']) => void;

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

function emitCreated(emit: Emit, record: RecordWord, id: string, row: Row): void {
  if (record === 'lead') emit('lead.created', { id, personId: text(row.personId) });
  else emit(`${record}.created`, { id });
}

/** What became of a record of its own: people, companies, leads, deals, next moves. */
function emitRecordChange(emit: Emit, record: RecordWord, id: string, before: Row, after: Row): void {
  const fields = changedFields(before, after);
  if (fields.length) emit(`${record}.changed`, { id, fields });
  if (record !== 'task' && fields.includes('ownerId'))
    emit(`${record}.owner_changed`, { id, from: idOrNull(before.ownerId), to: idOrNull(after.ownerId) });
  if (record === 'lead') emitLeadChange(emit, id, before, after);
  if (record === 'deal') emitDealChange(emit, id, before, after);
  if (record === 'task' && !before.doneAt && after.doneAt) emit('task.done', { id, at: text(after.doneAt) });
}

function emitLeadChange(emit: Emit, id: string, before: Row, after: Row): void {
  if (before.status !== after.status)
    emit('lead.status_changed', { id, from: text(before.status), to: text(after.status) });
  const dealId = idOrNull(after.dealId);
  if (dealId && !before.dealId) emit('lead.converted', { id, dealId });
}

function emitDealChange(emit: Emit, id: string, before: Row, after: Row): void {
  if (before.stageId !== after.stageId)
    emit('deal.stage_changed', { id, from: text(before.stageId), to: text(after.stageId) });
  if (!before.closedAt && after.closedAt) emit('deal.closed', { id, reason: idOrNull(after.closeReason) });
  if (before.closedAt && !after.closedAt) emit('deal.reopened', { id });
}

/** A new entry with everything that the same change linked it to. */
function emitLedgerEntry(emit: Emit, entry: Row, changes: readonly Change[]): void {
  const links = changes.flatMap(({ table, after }) =>
    table === 'ledger_links' && after && after.entryId === entry.id ? [after] : [],
  );
  const linked = (key: string): string[] => links.flatMap((link) => idOrNull(link[key]) ?? []);
  emit('ledger.entered', {
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
function emitPartChange(emit: Emit, { table, id, before, after }: Change, changes: readonly Change[]): void {
  // A change of a record has an event of its own.
  if (table === 'ledger_entries' && !before && after && after.kind !== 'change')
    emitLedgerEntry(emit, after, changes);
  if (table === 'ledger_entries' && before && !after) emit('ledger.removed', { id });
  if (table === 'captures' && !before && after)
    emit('capture.received', { id, kind: text(after.kind), cameBy: text(after.cameBy) });
  if (table === 'captures' && before && after && before.state !== after.state) {
    if (after.state === 'filed') emit('capture.filed', { id });
    if (after.state === 'set aside') emit('capture.set_aside', { id });
  }
  if (table === 'form_submissions' && !before && after)
    emit('form.submitted', { id, formId: text(after.formId), captureId: text(after.captureId) });
  if (table === 'calls' && after && before?.state !== after.state)
    emit('call.changed', {
      id,
      direction: after.direction as 'in' | 'out',
      state: text(after.state),
      personId: idOrNull(after.personId),
    });
  if (table === 'consents' && !before && after)
    emit('consent.changed', {
      personId: text(after.personId),
      purposeId: text(after.purposeId),
      topicId: idOrNull(after.topicId),
      state: after.state as ConsentState,
      how: text(after.how),
    });
  if (table === 'contact_points' && before && after && before.reach !== after.reach)
    emit('address.reach_changed', {
      personId: text(after.personId),
      contactId: id,
      address: text(after.value),
      reach: after.reach as Reach,
    });
}

/** A person of whom a contact detail changed changed too, once however many did. */
function emitContactChanges(emit: Emit, changes: readonly Change[], told: ReadonlySet<string>): void {
  const people = new Set(
    changes.flatMap(({ table, before, after }) =>
      table === 'contact_points' ? (idOrNull((after ?? before)?.personId) ?? []) : [],
    ),
  );
  for (const id of people) if (!told.has(id)) emit('person.changed', { id, fields: ['contacts'] });
}

/** @returns the records that went into another, which are not removed */
function emitMerges(emit: Emit, changes: readonly Change[]): Set<string> {
  const gone = new Set<string>();
  for (const { table, before, after } of changes) {
    if (table !== 'merges' || before || !after) continue;
    gone.add(text(after.mergedId));
    const data = { id: text(after.mergedId), into: text(after.survivorId) };
    if (after.kind === 'person') emit('person.merged', data);
    else emit('company.merged', data);
  }
  return gone;
}

/**
 * The public events of one change, derived from the rows it wrote. The only place where rows become events that others read.
 */
export function publicEventsOf(event: Followed): PublicEvent[] {
  const { changes } = event;
  const emitted: UntypedEvent<EventType>[] = [];
  const emit = ((type, data) => void emitted.push({ type, data } as UntypedEvent<EventType>)) as Emit;
  const merged = emitMerges(emit, changes);
  const whole = new Set<string>();
  for (const change of changes) {
    const { table, id, before, after } = change;
    const record = table in RECORDS ? RECORDS[table as keyof typeof RECORDS] : null;
    if (!record) {
      emitPartChange(emit, change, changes);
      continue;
    }
    if (!before || !after) whole.add(id);
    if (!before && after) emitCreated(emit, record, id, after);
    else if (before && !after && !merged.has(id)) emit(`${record}.removed`, { id });
    else if (before && after) emitRecordChange(emit, record, id, before, after);
  }
  emitContactChanges(emit, changes, whole);
  const { id: eventId, actorId, causeId, depth } = event;
  const envelope = {
    version: EVENT_VERSION,
    eventId,
    at: event.at.toISOString(),
    actorId,
    causeId,
    depth,
  } as const;
  return emitted.map((one) => ({ ...envelope, ...one }) as PublicEvent);
}
