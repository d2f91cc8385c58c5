import { findMentions } from '@emporikon/core/ledger/mentions';
import type { Followed } from '../commands/types';
import type { Change } from '../db/models/ledger';
import type { Letter } from '../db/models/letters';
import { ofLetter } from './tellLetters';
import { handedOver, ofAttendee, ofMessage, ofTask } from './tellTasks';
import type { Colleague, Told } from './told';

type Row = Record<string, unknown>;

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

/** Whoever is to look after a case or a project, from when it is opened for them. */
function caretakers({ table, before, after }: Change): Told[] {
  const userId = idOf(after?.ownerId);
  if ((table !== 'cases' && table !== 'projects') || !after || !userId || before?.ownerId === userId)
    return [];
  const noun = table === 'cases' ? 'Case' : 'Project';
  return [
    {
      userId,
      kind: 'owner',
      title: `${noun}: ${text(after.title)}`,
      personId: idOf(after.personId),
      companyId: idOf(after.companyId),
    },
  ];
}

interface Around {
  colleagues: readonly Colleague[];
  /** The records that an entry was linked to by the same change. */
  links: (entryId: string) => Partial<Told>;
}

/** Of these there is one notice, and not one a task. */
const HANDING_OVER = new Set(['hand over', 'return work']);

/** What a change tells to whom; nobody is told of what they did themselves. */
export function noticesOf(
  { command, changes, actorId }: Pick<Followed, 'command' | 'changes' | 'actorId'>,
  colleagues: readonly Colleague[],
  messaged: ReadonlyMap<string, Row> = new Map(),
  letters: ReadonlyMap<string, Pick<Letter, 'authorId' | 'subject'>> = new Map(),
): Told[] {
  if (HANDING_OVER.has(command)) return handedOver(changes, colleagues, actorId);
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
    .flatMap((change) => [
      ...mentions(change, around),
      ...ofTask(change, colleagues, actorId),
      ...ofMessage(change, messaged),
      ...ofAttendee(change, messaged, colleagues),
      ...ofLetter(change, letters),
      ...owners(change),
      ...caretakers(change),
    ])
    .filter(({ userId }) => userId !== actorId && colleagues.some((one) => one.id === userId));
}
