import { QueryTypes } from 'sequelize';
import { Person } from './db/models/people';
import { addPerson } from './people/commands';
import { useHouse } from './testing/harness';
import { runInTransaction } from './commands/context';
import { DEEPEST } from './commands/followers';
import type { After } from './commands/types';

const { house, pell } = useHouse();
interface Row {
  id: string;
  command: string;
  cause_id: string | null;
  depth: number;
}
const eventsOf = (command: string): Promise<Row[]> =>
  house.sequelize.query<Row>(
    'SELECT id, command, cause_id, depth FROM events WHERE command = :command ORDER BY depth',
    { replacements: { command }, type: QueryTypes.SELECT },
  );
const againNow = () => house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');

/** A follower that writes itself on everybody new, beside those of the program. */
function follower(name: string, over: Partial<After> = {}): After {
  return {
    name,
    concerns: ({ changes }) => changes.some(({ table, before }) => table === 'people' && !before),
    async follow(context, { changes, depth }) {
      const id = changes.find(({ table }) => table === 'people')?.id ?? '';
      const person = await Person.findByPk(id, { transaction: context.tx, rejectOnEmpty: true });
      await context.write.update(person, { jobTitle: `${name} ${depth}` });
      await context.write.event(name, name, null);
    },
    ...over,
  };
}
function listen(...added: After[]): void {
  house.tools.followers = { ...house.tools.followers, after: [...before, ...added] };
}
let before: readonly After[] = [];
beforeAll(() => void (before = house.tools.followers.after));
afterEach(() => listen());
const newPerson = async (fullName: string) =>
  (await pell.call('POST /api/people', { body: { fullName } })).body.eventId;

it('what comes after an event names it as its cause, one deeper, and is done once however often it is asked for', async () => {
  listen(follower('greet'));
  const eventId = await newPerson('Ann Cause');
  await house.work();
  const done = await eventsOf('greet');
  expect(done).toMatchObject([{ cause_id: eventId, depth: 1 }]);
  for (let count = 0; count < 3; count++) {
    await house.sequelize.query(`SELECT graphile_worker.add_job('follow', payload => :input::json)`, {
      replacements: { input: JSON.stringify({ eventId, follower: 'greet' }) },
    });
    await house.work();
  }
  expect(await eventsOf('greet')).toEqual(done);
});

it('one that fails leaves nothing, is tried again, and then is done once', async () => {
  house.expectFailure(/not today/);
  let tries = 0;
  const good = follower('retry');
  listen({
    ...good,
    async follow(context, event) {
      await good.follow(context, event);
      if (++tries < 3) throw new Error('not today');
    },
  });
  await newPerson('Bo Retry');
  for (let count = 0; count < 4; count++) {
    await house.work();
    await againNow();
  }
  expect([tries, (await eventsOf('retry')).length]).toEqual([3, 1]);
});

it('is asked for by the same transaction: a command that fails has no followers', async () => {
  listen(follower('never'));
  await expect(
    runInTransaction(house.tools, null, async (context) => {
      await addPerson(context, { fullName: 'Cy Gone' });
      await context.write.event('add person', 'Added', null);
      throw new Error('cut off');
    }),
  ).rejects.toThrow('cut off');
  await house.work();
  expect(await eventsOf('never')).toEqual([]);
});

it('a circle of followers ends', async () => {
  house.expectFailure(/in a circle/);
  listen(follower('circle', { concerns: ({ command }) => ['add person', 'circle'].includes(command) }));
  await newPerson('Dee Circle');
  for (let count = 0; count <= DEEPEST + 1; count++) await house.work();
  expect((await eventsOf('circle')).map(({ depth }) => depth)).toEqual(
    Array.from({ length: DEEPEST }, (_, at) => at + 1),
  );
});

it('taking an event back takes what followed it back first', async () => {
  listen(follower('extra'));
  const eventId = await newPerson('Edda Undone');
  await house.work();
  expect((await pell.call('POST /api/events/:id/undo', { params: { id: eventId ?? '' } })).status).toBe(200);
  expect((await pell.call('GET /api/people', { query: { q: 'Edda Undone' } })).body.items).toEqual([]);
  const [followed] = await eventsOf('extra');
  const [row] = await house.sequelize.query<{ n: number }>(
    'SELECT count(*)::int AS n FROM events WHERE undoes = :id',
    { replacements: { id: followed?.id ?? '' }, type: QueryTypes.SELECT },
  );
  expect(row?.n).toBe(1);
});
