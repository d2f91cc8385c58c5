import type { Change } from '../db/models/ledger';
import type { Letter } from '../db/models/letters';
import type { Told } from './told';

/** What keeps a letter from its reader, in words. */
const CAME_BACK: Readonly<Record<string, string>> = {
  full: 'mailbox full',
  gone: 'address no longer exists',
  refused: 'refused by their server',
  complaint: 'reported as unwanted',
};
type Known = Pick<Letter, 'authorId' | 'subject'>;

/** Whoever wrote a letter hears when it did not go out, or came back from one of those it went to. */
export function ofLetter({ table, before, after }: Change, letters: ReadonlyMap<string, Known>): Told[] {
  if (!after || before?.state === after.state) return [];
  const personId = typeof after.personId === 'string' ? after.personId : null;
  if (table === 'letters' && after.state === 'failed')
    return [
      {
        userId: String(after.authorId),
        kind: 'letter',
        title: String(after.subject),
        detail: 'it did not go out',
        personId,
      },
    ];
  const words = table === 'letter_recipients' ? CAME_BACK[String(after.state)] : undefined;
  const letter = letters.get(String(after.letterId));
  if (!words || !letter) return [];
  const who = String(after.name || after.address);
  return [
    { userId: letter.authorId, kind: 'letter', title: letter.subject, detail: `${who}: ${words}`, personId },
  ];
}

/** The letters whose recipients a change is about. */
export const letterIdsOf = (changes: readonly Change[]): string[] => [
  ...new Set(
    changes.flatMap(({ table, after }) =>
      table === 'letter_recipients' && typeof after?.letterId === 'string' ? [after.letterId] : [],
    ),
  ),
];
