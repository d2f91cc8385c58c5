/** What somebody is told: what a colleague did that has to do with them, and what they asked to be reminded of. */
export const NOTICE_KINDS = [
  'mention',
  'given',
  'done',
  'moved',
  'passed on',
  'owner',
  'declined',
  'taken back',
  'answered',
  'asked after',
  'reminder',
  'handed over',
  'invited',
  'coming',
  'letter',
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

interface SaidNotice {
  kind: NoticeKind;
  /** The note, task or record it is about. */
  title: string;
  /** When it is due, to whom it went, what was said. */
  detail: string;
  /** Who did it; null for the program itself. */
  actor: string | null;
  about: { kind: string } | null;
}

/** A notice in one sentence, without its time. */
export function noticeWords({ kind, title, detail, actor, about }: SaidNotice): string {
  const who = actor ?? 'Emporikon';
  switch (kind) {
    case 'mention':
      return `${who} mentioned you: ${title}`;
    case 'given':
      return `${who} gave you a task: ${title}${detail ? `, due ${detail}` : ''}`;
    case 'done':
      return `${who} finished: ${title}`;
    case 'moved':
      return `${who} moved “${title}”${detail ? ` to ${detail}` : ''}`;
    case 'passed on':
      return `${who} passed “${title}” on${detail ? ` to ${detail}` : ''}`;
    case 'owner':
      return `${who} made you the owner of ${about ? `the ${about.kind} ` : ''}${title}`;
    case 'declined':
      return `${who} declined “${title}”${detail ? `: ${detail}` : ''}`;
    case 'taken back':
      return `${who} took back: ${title}`;
    case 'answered':
      return `${who} wrote about “${title}”: ${detail}`;
    case 'asked after':
      return `${who} reminds you of: ${title}${detail ? `, due ${detail}` : ''}`;
    case 'invited':
      return `${who} asks you to come: ${title}${detail ? `, ${detail}` : ''}`;
    case 'coming':
      return `${title}: ${detail}`;
    case 'letter':
      return `Your letter “${title}”: ${detail}`;
    case 'reminder':
      return `Reminder: ${title}`;
    case 'handed over':
      return detail === 'back'
        ? `Back with you: ${title}`
        : `${who} handed over ${title}${detail ? ` to ${detail}` : ''}`;
  }
}
