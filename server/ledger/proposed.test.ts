import { mail, useHouse } from '../testing/harness';

const { pell } = useHouse();

it('a mail that asks for something proposes a task with its sentence, until it is taken', async () => {
  const captured = await pell.call('POST /api/captures', {
    raw: mail({
      body: 'Hello Pell,\n\ncould you send us the price list? And could you call me on Thursday?\n\nInes',
    }),
  });
  await pell.call('POST /api/captures/:id/filing', {
    params: { id: captured.body.id },
    body: { nextMove: null },
  });
  const people = (await pell.call('GET /api/people')).body.items;
  const personId = people[0]?.id ?? '';
  const { items } = (await pell.call('GET /api/ledger', { query: { personId } })).body;
  const id = items.find(({ kind }) => kind === 'mail')?.id ?? '';
  const proposed = async () => (await pell.call('GET /api/ledger/:id', { params: { id } })).body.proposed;
  const [first, second, ...more] = await proposed();
  expect([first?.title, second?.title, more]).toEqual([
    expect.stringMatching(/send them the price list/i),
    expect.stringMatching(/call/i),
    [],
  ]);
  expect(first?.asked).toMatch(/could you send us the price list/i);
  const made = await pell.call('POST /api/tasks', { body: { ...first, entryId: id, personId } });
  expect((await proposed()).map(({ title }) => title)).toEqual([second?.title]);
  expect((await pell.call('GET /api/tasks/:id', { params: { id: made.body.task.id } })).body.asked).toBe(
    first?.asked,
  );
  await pell.call('POST /api/events/:id/undo', { params: { id: made.body.eventId ?? '' } });
  expect(await proposed()).toHaveLength(2);
});
