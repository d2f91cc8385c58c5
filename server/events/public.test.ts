import { eventData, type EventType, type PublicEvent } from '@emporikon/contract/events';
import { runInTransaction } from '../commands/context';
import type { Followed } from '../commands/types';
import { EventRow } from '../db/models/ledger';
import { mail, useHouse } from '../testing/harness';
import { publicEventsOf } from './public';

const { house, pell, mara } = useHouse();

/** Every public event since the last look, in order. */
let seen = '0';
async function told(): Promise<PublicEvent[]> {
  const all = await runInTransaction(house.tools, null, ({ tx }) =>
    EventRow.findAll({ order: ['seq'], transaction: tx }),
  );
  const rows = all.filter(({ seq }) => Number(seq) > Number(seen));
  seen = String(rows.at(-1)?.seq ?? seen);
  return rows.flatMap((row) => publicEventsOf(row.get({ plain: true }) as Followed));
}
const typesOf = (events: readonly PublicEvent[]): string[] => events.map(({ type }) => type);
const ever = new Set<EventType>();
async function after(work: () => Promise<unknown>): Promise<PublicEvent[]> {
  await told();
  await work();
  const events = await told();
  for (const { type, data } of events) {
    expect(eventData[type].parse(data)).toEqual(data);
    ever.add(type);
  }
  return events;
}

const addPerson = async (fullName: string, over: object = {}) =>
  (await pell.call('POST /api/people', { body: { fullName, ...over } })).body.person;
const personId = { value: '' };
const undo = (eventId: string | null | undefined) =>
  pell.call('POST /api/events/:id/undo', { params: { id: eventId ?? '' } });

it('tells of a new person once, though their contact details are rows of their own', async () => {
  const events = await after(async () => {
    personId.value = (
      await addPerson('Ann Reed', { email: 'ann@reed.example', phone: '+44 7700 900 411' })
    ).id;
  });
  expect(events.filter(({ type }) => type.startsWith('person.'))).toMatchObject([
    { type: 'person.created', version: 2, data: { id: personId.value }, depth: 0, causeId: null },
  ]);
});

it('names the fields that changed, without bookkeeping, and the owner apart', async () => {
  const { body: users } = await pell.call('GET /api/users');
  const ines = users.items.find(({ name }) => name === 'Ines Tolland');
  const { body: before } = await pell.call('GET /api/people/:id', { params: { id: personId.value } });
  const events = await after(() =>
    pell.call('PATCH /api/people/:id', {
      params: { id: personId.value },
      body: { version: before.version, jobTitle: 'Buyer', ownerId: ines?.id },
    }),
  );
  const id = personId.value;
  expect(events).toMatchObject([
    { type: 'person.changed', data: { id, fields: expect.arrayContaining(['jobTitle', 'ownerId']) } },
    { type: 'person.owner_changed', data: { id, to: ines?.id } },
  ]);
  expect(events[0]?.data).not.toMatchObject({ fields: expect.arrayContaining(['version']) });
});

it('tells of a mail, what it was filed on, and what was taken back', async () => {
  const taken = await after(() => pell.call('POST /api/captures', { raw: mail() }));
  expect(typesOf(taken)).toEqual(['capture.received']);
  const id = (taken[0]?.data as { id: string }).id;
  let eventId: string | null = null;
  const filed = await after(async () => {
    const { body } = await pell.call('POST /api/captures/:id/filing', {
      params: { id },
      body: { person: 'new' },
    });
    eventId = body.eventId;
  });
  expect(typesOf(filed)).toEqual(
    expect.arrayContaining(['capture.filed', 'person.created', 'lead.created', 'ledger.entered']),
  );
  const lead = filed.find(({ type }) => type === 'lead.created')?.data as { personId: string };
  expect(filed.find(({ type }) => type === 'ledger.entered')?.data).toMatchObject({
    kind: 'mail',
    side: 'theirs',
    personIds: [lead.personId],
  });
  expect(typesOf(await after(() => undo(eventId)))).toEqual(
    expect.arrayContaining(['person.removed', 'lead.removed', 'ledger.removed']),
  );
});

it('tells of a lead on its way to a deal, and of the deal', async () => {
  const lead = (
    await pell.call('POST /api/leads', {
      body: { personId: personId.value, title: 'Eight bikes', source: 'call' },
    })
  ).body.lead;
  const working = await after(async () =>
    pell.call('PATCH /api/leads/:id', {
      params: { id: lead.id },
      body: { version: lead.version, status: 'working' },
    }),
  );
  expect(working).toMatchObject([
    { type: 'lead.changed' },
    { type: 'lead.status_changed', data: { from: 'new', to: 'working' } },
  ]);
  const converted = await after(() =>
    pell.call('POST /api/leads/:id/conversion', {
      params: { id: lead.id },
      body: { deal: { title: 'Bikes' } },
    }),
  );
  expect(typesOf(converted)).toEqual(expect.arrayContaining(['lead.converted', 'deal.created']));
  const { dealId } = converted.find(({ type }) => type === 'lead.converted')?.data as { dealId: string };
  const { body: deal } = await pell.call('GET /api/deals/:id', { params: { id: dealId } });
  const pipelineId = (await pell.call('GET /api/pipelines')).body.items[0]?.id ?? '';
  const { stages } = (await pell.call('GET /api/pipelines/:id/board', { params: { id: pipelineId } })).body;
  const next = stages.find(({ kind, id }) => kind === 'open' && id !== deal.stage.id);
  const moved = await after(() =>
    pell.call('PATCH /api/deals/:id', {
      params: { id: dealId },
      body: { version: deal.version, stageId: next?.id },
    }),
  );
  expect(moved.find(({ type }) => type === 'deal.stage_changed')?.data).toEqual({
    id: dealId,
    from: deal.stage.id,
    to: next?.id,
  });
});

it('tells which of two records was merged into which, and calls it no removal', async () => {
  const [kept, gone] = [await addPerson('Bo Twice'), await addPerson('Bo Twice')];
  const events = await after(() =>
    mara.call('POST /api/merges', { body: { kind: 'person', survivorId: kept.id, mergedIds: [gone.id] } }),
  );
  expect(events.filter(({ type }) => type === 'person.merged')).toMatchObject([
    { data: { id: gone.id, into: kept.id } },
  ]);
  expect(typesOf(events)).not.toContain('person.removed');
});

it('lists every type with a schema that its data keeps', async () => {
  const { body } = await pell.call('GET /api/event-types');
  expect(body.items.map(({ type }) => type).sort()).toEqual(Object.keys(eventData).sort());
  expect(body.items.find(({ type }) => type === 'deal.stage_changed')?.data).toMatchObject({
    type: 'object',
    required: ['id', 'from', 'to'],
  });
});
