import type { RoundLine } from '@emporikon/contract/round';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { calendarDay, todayOf } from '../shell/format';
import { fromField, toField } from '../shell/moment';
import { useTaskAction } from '../tasks/useTaskAction';

const DAY_MS = 86_400_000;
const nextDay = (): string =>
  new Date(Date.parse(`${todayOf()}T00:00:00Z`) + DAY_MS).toISOString().slice(0, 10);

const titleOf = (line: RoundLine): string =>
  line.task?.title ?? line.case?.name ?? line.person?.name ?? line.deal?.name ?? line.lead?.name ?? 'This';

/** What can be done with a line of the round, in place. */
export function useRound(reload: () => Promise<void>) {
  const run = useTaskAction();
  const router = useRouter();

  const act = async (text: string, command: () => Promise<{ eventId: string | null }>): Promise<boolean> => {
    const isDone = await run(text, command);
    await reload();
    return isDone;
  };

  /** A task is done; to what they asked nothing is left to answer; anything else, as a meeting that a colleague holds, has been seen to for today. */
  const finish = (line: RoundLine): Promise<boolean> => {
    const { task, person, kind } = line;
    if (task && !line.isAsked)
      return act(`Done: ${task.title}.`, () =>
        api('PATCH /api/tasks/:id', { params: { id: task.id }, body: { version: task.version, done: true } }),
      );
    if (kind === 'turn' && person)
      return act(`Nothing is left to answer for ${person.name}.`, () =>
        api('POST /api/ledger/answered', { body: { personId: person.id } }),
      );
    return later(line, nextDay());
  };

  /** To another day: a task is moved, anything else stays away until then, or until something new comes. */
  function later(line: RoundLine, day: string): Promise<boolean> {
    const task = line.isAsked ? null : line.task;
    const text = `${titleOf(line)}: later, on ${calendarDay(day)}.`;
    if (!task) return act(text, () => api('POST /api/round/later', { body: { key: line.key, until: day } }));
    const dueAt = task.allDay
      ? fromField(day, true, task.zone)
      : fromField(`${day}T${toField(task.dueAt, false).slice(11)}`, false);
    return act(text, () =>
      api('PATCH /api/tasks/:id', {
        params: { id: task.id },
        body: { version: task.version, ...(dueAt ? { dueAt } : {}) },
      }),
    );
  }

  /** Where the name in a line leads; a case's own name leads to the case. */
  const recordOf = ({ person, deal, lead, company, kind }: RoundLine): string | null => {
    if (kind === 'stuck' && deal) return `/deals/${deal.id}`;
    if (kind === 'new' && lead) return `/leads/${lead.id}`;
    if (person) return `/people/${person.id}`;
    if (deal) return `/deals/${deal.id}`;
    if (lead) return `/leads/${lead.id}`;
    return company ? `/companies/${company.id}` : null;
  };
  const open = (line: RoundLine): void => {
    const to = line.case ? `/cases/${line.case.id}` : recordOf(line);
    if (to) void router.push(to);
  };
  const call = ({ person }: RoundLine): void => {
    if (person) void router.push({ path: '/calls/new', query: { person: person.id, name: person.name } });
  };
  const write = ({ email }: RoundLine): void => {
    if (email) window.location.href = `mailto:${email}`;
  };
  return { finish, later, open, call, write, recordOf };
}
