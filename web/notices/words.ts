import type { Notice } from '@emporikon/contract/notices';

const RECORDS = { person: 'person', company: 'company', lead: 'lead', deal: 'deal' } as const;

/** A notice in one sentence, without its time. */
export function noticeWords({ kind, title, detail, actor, about }: Notice): string {
  const who = actor ?? 'Emporikon';
  switch (kind) {
    case 'mention':
      return `${who} mentioned you: ${title}`;
    case 'given':
      return `${who} gave you a task: ${title}${detail ? `, due ${detail}` : ''}`;
    case 'done':
      return `${who} finished: ${title}`;
    case 'moved':
      return `${who} moved ${title}${detail ? ` to ${detail}` : ''}`;
    case 'passed on':
      return `${who} passed ${title} on${detail ? ` to ${detail}` : ''}`;
    case 'owner':
      return `${who} made you the owner of ${about ? `the ${RECORDS[about.kind]} ` : ''}${title}`;
  }
}
