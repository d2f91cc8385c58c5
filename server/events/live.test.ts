import { runInTransaction } from '../commands/context';
import { addPerson } from '../people/commands';
import { databaseUrl, useHouse } from '../testing/harness';
import { LiveFeed } from './live';
import { mayHaveMissed } from './routes';

const { house } = useHouse();
interface Notice {
  id?: string;
  command?: string;
  isLong?: boolean;
  touched?: { table: string; id: string; of?: string[] }[];
}
const heard: Notice[] = [];
const feed = (() => {
  let live: LiveFeed;
  beforeAll(async () => {
    live = new LiveFeed(databaseUrl());
    live.subscribe((payload) => void heard.push(JSON.parse(payload) as Notice));
    await live.start();
  });
  afterAll(() => live.stop());
  /** Waits for the notice of an event. */
  return async (id: string | null): Promise<Notice> => {
    for (let tries = 0; tries < 200; tries++) {
      const found = heard.find((one) => one.id === id);
      if (found) return found;
      await new Promise((resolve) => setTimeout(resolve, 25));
    }
    throw new Error('the event was not told');
  };
})();

const PEOPLE = 300;

it('an event names every record it touched, however many, and each row says what it belongs to', async () => {
  const ids: string[] = [];
  const eventId = await runInTransaction(house.tools, null, async (context) => {
    for (let at = 0; at < PEOPLE; at++)
      ids.push(
        (
          await addPerson(
            { ...context, write: silent(context.write) },
            { fullName: `P ${at}`, email: `p${at}@many.example` },
          )
        ).id,
      );
    return context.write.event('add many', 'Added many', null);
  });
  const { touched = [], isLong } = await feed(eventId);
  expect(isLong).toBeUndefined();
  expect(new Set(touched.filter(({ table }) => table === 'people').map(({ id }) => id))).toEqual(
    new Set(ids),
  );
  const contacts = touched.filter(({ table }) => table === 'contact_points');
  expect(contacts).toHaveLength(PEOPLE);
  for (const { of } of contacts) expect(of).toHaveLength(1);
  expect(new Set(contacts.flatMap(({ of }) => of ?? []))).toEqual(new Set(ids));
});

/** The writer of a command whose parts give no event of their own. */
const silent = <Write extends { event: unknown }>(write: Write): Write =>
  new Proxy(write, {
    get: (target, key) =>
      key === 'event'
        ? () => Promise.resolve(null)
        : (Reflect.get(target, key) as (...given: unknown[]) => unknown).bind(target),
  });

it('notices come in the order of their commits, long ones too', async () => {
  const made: (string | null)[] = [];
  for (const count of [1, PEOPLE, 1])
    made.push(
      await runInTransaction(house.tools, null, async (context) => {
        const write = silent(context.write);
        for (let at = 0; at < count; at++)
          await addPerson({ ...context, write }, { fullName: `Q ${made.length} ${at}` });
        return context.write.event('add some', 'Added some', null);
      }),
    );
  await feed(made[2] ?? null);
  expect(heard.filter(({ command }) => command === 'add some').map(({ id }) => id)).toEqual(made);
});

it('a listener that fails, or a notice that is none, keeps nothing back that comes after', async () => {
  const live = new LiveFeed(databaseUrl());
  const told: string[] = [];
  live.subscribe((payload) => {
    if (payload.includes('fails')) throw new Error('cannot be told');
    told.push(payload);
  });
  await live.start();
  for (const payload of ['{"command":"fails"}', 'no json', '{"command":"after"}'])
    await house.sequelize.query("SELECT pg_notify('emporikon_events', :payload)", {
      replacements: { payload },
    });
  for (let tries = 0; tries < 200 && !told.some((one) => one.includes('after')); tries++)
    await new Promise((resolve) => setTimeout(resolve, 25));
  await live.stop();
  expect(told.at(-1)).toContain('after');
});

it.each([
  [500, 400, true, 'while it was read'],
  [500, 1400, true, 'just before, by a clock that is not quite the same'],
  [500, 1600, false, 'before it was read'],
  [0, 100, false, 'and it does not say when it was read'],
  [NaN, 100, false, 'and what it says is no number'],
  [600_000, 62_000, false, 'longer ago than any page takes to be read'],
])('a page read %i ms ago, and a change %i ms ago: missed is %s (%s)', (age, ago, missed) => {
  const now = Date.UTC(2026, 10, 28);
  expect(mayHaveMissed(age, now - ago, now)).toBe(missed);
});
