import { noticeWords, type NoticeKind } from '@emporikon/core/ledger/notices';
import { DateTime } from 'luxon';

/** A notice with what its mail says of it. */
export interface MailedNotice {
  id: string;
  kind: NoticeKind;
  title: string;
  detail: string;
  actor: string | null;
  about: string;
  taskId: string | null;
  personId: string | null;
  companyId: string | null;
  leadId: string | null;
  dealId: string | null;
  notes: string | null;
  dueAt: Date | null;
  allDay: boolean | null;
  zone: string | null;
}

interface Reader {
  publicUrl: string;
  /** IANA name. */
  zone: string;
}

/** A notice in one line; when it is due stands on its own. */
const lineOf = (notice: MailedNotice): string =>
  noticeWords({
    ...notice,
    detail: DUE_BELOW.has(notice.kind) ? '' : notice.detail,
    about: null,
  });
const DUE_BELOW = new Set<NoticeKind>(['given', 'asked after']);

const pathOf = ({ taskId, dealId, leadId, personId, companyId }: MailedNotice): string => {
  const record = dealId
    ? `/deals/${dealId}`
    : leadId
      ? `/leads/${leadId}`
      : personId
        ? `/people/${personId}`
        : companyId
          ? `/companies/${companyId}`
          : '/round';
  return taskId ? `${record}?task=${taskId}` : record;
};

function dueWords({ dueAt, allDay, zone }: MailedNotice, theirZone: string): string | null {
  if (!dueAt) return null;
  const at = DateTime.fromJSDate(dueAt, { zone: allDay ? (zone ?? theirZone) : theirZone });
  return at.toFormat(allDay ? 'cccc d LLLL yyyy' : 'cccc d LLLL yyyy, HH:mm');
}

const short = (line: string): string => {
  const [first = ''] = line.split(/[\r\n]/);
  return first.length > 120 ? `${first.slice(0, 119)}…` : first;
};

/** The mail of one notice, or of those of a day. */
export function mailOf(notices: readonly MailedNotice[], reader: Reader): { subject: string; text: string } {
  const [only] = notices;
  if (only && notices.length === 1) {
    const due = dueWords(only, reader.zone);
    const isTask = only.taskId !== null;
    return {
      subject: short(lineOf(only)),
      text: [
        lineOf(only),
        [only.about ? `About: ${only.about}` : '', due ? `Due: ${due}` : ''].filter(Boolean).join('\n'),
        only.kind === 'given' ? (only.notes ?? '') : '',
        `${reader.publicUrl}${pathOf(only)}`,
        isTask ? 'Reply to this mail to answer. Write “done” when it is done.' : '',
      ]
        .filter(Boolean)
        .join('\n\n'),
    };
  }
  return {
    subject: `${notices.length} notices for you`,
    text: notices.map((notice) => `${lineOf(notice)}\n${reader.publicUrl}${pathOf(notice)}`).join('\n\n'),
  };
}
