import type { NoticeKind } from '@emporikon/contract/notices';
import { findMentions } from '@emporikon/core/ledger/mentions';
import { DateTime } from 'luxon';
import type { z } from 'zod';
import type { Followed } from '../commands/types';
import type { Change } from '../db/models/ledger';

type Row = Record<string, unknown>;

/** What somebody is told. */
export interface Told {
  userId: string;
  kind: z.infer<typeof NoticeKind>;
  title: string;
  detail?: string;
  entryId?: string;
  taskId?: string;
  personId?: string | null;
  companyId?: string | null;
  leadId?: string | null;
  dealId?: string | null;
}

export interface Colleague {
  id: string;
  name: string;
  email: string;
  timeZone: string;
}

const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const idOf = (value: unknown): string | null => text(value) || null;
const wordsOf = (row: Row | null): string =>
  row ? [row.headline, row.body, row.said].map(text).filter(Boolean).join('\n') : '';

/** Whoever a note calls by @, and did not call before it was changed. What came in from outside calls nobody. */
function mentions({ table, id, before, after }: Change, { colleagues, links }: Around): Told[] {
  if (table !== 'ledger_entries' || !after || after.captureId || after.kind === 'change') return [];
  const known = new Set(findMentions(wordsOf(before), colleagues));
  return findMentions(wordsOf(after), colleagues)
    .filter((userId) => !known.has(userId))
    .map((userId) => ({
      userId,
      kind: 'mention' as const,
      title: text(after.headline),
      entryId: id,
      ...links(id),
    }));
}

const dueIn = (zone: string, row: Row): string =>
  DateTime.fromISO(text(row.dueAt), { zone }).toFormat(row.allDay ? 'ccc d LLL' : 'ccc d LLL, HH:mm');

/** Whoever is given something to do, and whoever gave it when it is done, moved or passed on. */
function tasks({ table, id, before, after }: Change, { colleagues }: Around): Told[] {
  if (table !== 'tasks' || !after) return [];
  const zoneOf = (userId: string): string => colleagues.find((one) => one.id === userId)?.timeZone ?? 'utc';
  const tell = (userId: unknown, kind: Told['kind'], detail?: string): Told[] =>
    idOf(userId)
      ? [
          {
            userId: text(userId),
            kind,
            title: text(after.title),
            detail: detail ?? dueIn(zoneOf(text(userId)), after),
            taskId: id,
            personId: idOf(after.personId),
            companyId: idOf(after.companyId),
            leadId: idOf(after.leadId),
            dealId: idOf(after.dealId),
          },
        ]
      : [];
  if (!before) return tell(after.assigneeId, 'given');
  const nameOf = (userId: unknown): string => colleagues.find((one) => one.id === userId)?.name ?? '';
  const isPassedOn = before.assigneeId !== after.assigneeId;
  return [
    ...(isPassedOn && !after.doneAt ? tell(after.assigneeId, 'given') : []),
    ...(isPassedOn && after.createdBy !== after.assigneeId
      ? tell(after.createdBy, 'passed on', nameOf(after.assigneeId))
      : []),
    ...(!before.doneAt && after.doneAt ? tell(after.createdBy, 'done', '') : []),
    ...(before.dueAt !== after.dueAt ? tell(after.createdBy, 'moved') : []),
    ...(before.dueAt !== after.dueAt && !isPassedOn && after.assigneeId !== after.createdBy
      ? tell(after.assigneeId, 'moved')
      : []),
  ];
}

const OWNED = {
  people: ['personId', 'fullName'],
  companies: ['companyId', 'name'],
  leads: ['leadId', 'title'],
  deals: ['dealId', 'title'],
} as const;

/** Whoever is made the owner of a record that was somebody else's or nobody's. */
function owners({ table, id, before, after }: Change): Told[] {
  const owned = OWNED[table as keyof typeof OWNED] as (typeof OWNED)[keyof typeof OWNED] | undefined;
  const userId = idOf(after?.ownerId);
  if (!owned || !before || !after || !userId || before.ownerId === userId) return [];
  const [key, name] = owned;
  return [{ userId, kind: 'owner', title: text(after[name]), [key]: id }];
}

interface Around {
  colleagues: readonly Colleague[];
  /** The records that an entry was linked to by the same change. */
  links: (entryId: string) => Partial<Told>;
}

/** What a change tells to whom; nobody is told of what they did themselves. */
export function noticesOf(
  { changes, actorId }: Pick<Followed, 'changes' | 'actorId'>,
  colleagues: readonly Colleague[],
): Told[] {
  const links = (entryId: string): Partial<Told> => {
    const own = changes.flatMap(({ table, after }) =>
      table === 'ledger_links' && after?.entryId === entryId ? [after] : [],
    );
    const of = (key: string): string | null =>
      own.map((link) => idOf(link[key])).find((id) => id !== null) ?? null;
    return {
      personId: of('personId'),
      companyId: of('companyId'),
      leadId: of('leadId'),
      dealId: of('dealId'),
    };
  };
  const around = { colleagues, links };
  return changes
    .flatMap((change) => [...mentions(change, around), ...tasks(change, around), ...owners(change)])
    .filter(({ userId }) => userId !== actorId && colleagues.some((one) => one.id === userId));
}
