import type { RoundCause, RoundLine } from '@emporikon/contract/round';
import { ago, counted, due, when } from '../shell/format';

/** Why a line stands in the round: what weighs, and the rest of the sentence. */
export interface Reason {
  strong: string;
  rest: string;
  tone: 'ours' | 'wait' | 'plain';
}

const sentence = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}`;

/** How long somebody usually waits for an answer, roundly: "an hour", "5 hours", "2 days". */
export function waitWords(hours: number): string {
  if (hours < 1.5) return 'an hour';
  if (hours < 20) return counted(Math.round(hours), 'hour');
  return hours < 36 ? 'a day' : counted(Math.round(hours / 24), 'day');
}

/** Why something wants a rep today, in a sentence. */
export function reasonWords(cause: RoundCause, usualWaitHours: number | null = null): Reason {
  const { kind, since, because, task, case: wanted, days, usualDays, stage, hasNextMove } = cause;
  if (kind === 'turn') {
    const usual =
      usualWaitHours === null ? '' : ` They usually hear from us within ${waitWords(usualWaitHours)}.`;
    return {
      strong: 'Our turn',
      rest: ` since ${when(since)}${because ? `: ${because.replace(/[.,;]+$/, '')}` : ''}${/[?!]$/.test(because) ? '' : '.'}${usual}`,
      tone: 'ours',
    };
  }
  if (kind === 'task' && task) {
    const from = cause.isAsked
      ? ` ${task.assignee.name} asked you to come.`
      : task.givenBy
        ? ` Given by ${task.givenBy.name}.`
        : '';
    return task.state === 'overdue'
      ? { strong: `Overdue since ${due(task)}.`, rest: from, tone: 'wait' }
      : {
          strong: task.allDay ? 'Due today.' : `Today, ${due(task).split(', ').at(-1) ?? ''}.`,
          rest: from,
          tone: 'plain',
        };
  }
  if (kind === 'new')
    return { strong: 'Nobody has spoken to them', rest: ` for ${ago(since)}.`, tone: 'ours' };
  if (kind === 'case' && wanted) {
    const thing = wanted.late === 'solution' ? 'A solution' : 'An answer';
    return wanted.late
      ? { strong: `${thing} was promised by ${when(since)}.`, rest: '', tone: 'ours' }
      : { strong: 'They wait for help.', rest: ` Promised by ${when(since)}.`, tone: 'plain' };
  }
  if (kind === 'stuck')
    return {
      strong: 'Stuck:',
      rest: ` ${counted(days ?? 0, 'day')} in ${stage ?? 'its stage'}, usual are ${usualDays ?? 0}.${hasNextMove ? '' : ' No next move.'}`,
      tone: 'wait',
    };
  return {
    strong: 'Going quiet:',
    rest: ` ${counted(days ?? 0, 'day')} without a word; you plan to speak every ${usualDays === 7 ? 'week' : counted(usualDays ?? 0, 'day')}.`,
    tone: 'wait',
  };
}

/** What else is the case with the same person or deal, in a few words. */
export const besidesWords = (line: Pick<RoundLine, 'besides'>): string =>
  line.besides.length
    ? sentence(
        line.besides
          .map(({ kind, days }) =>
            kind === 'turn'
              ? 'our turn'
              : kind === 'new'
                ? 'a new lead'
                : kind === 'stuck'
                  ? `the deal is stuck for ${counted(days ?? 0, 'day')}`
                  : 'going quiet',
          )
          .join(', '),
      )
    : '';

/** "1 h 50 min" of minutes. */
export function minutesWords(minutes: number): string {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return [hours ? `${hours} h` : '', rest || !hours ? `${rest} min` : ''].filter(Boolean).join(' ');
}

export const GROUPS = [
  { kind: undefined, name: 'Everything' },
  { kind: 'turn', name: 'Ours to answer' },
  { kind: 'task', name: 'Due' },
  { kind: 'case', name: 'Cases' },
  { kind: 'quiet', name: 'Going quiet' },
  { kind: 'stuck', name: 'Stuck deals' },
  { kind: 'new', name: 'New, not spoken to' },
] as const;
