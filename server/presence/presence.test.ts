import { LiveFeed } from '../events/live';
import { noticeFor } from '../events/routes';
import { databaseUrl, useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const start = new Date('2026-11-25T09:00:00Z').getTime();
beforeEach(() => {
  house.tools.now = () => new Date(start);
});
const later = (seconds: number): void => {
  house.tools.now = () => new Date(start + seconds * 1000);
};
const tabs = { pell: crypto.randomUUID(), ines: crypto.randomUUID(), mara: crypto.randomUUID() };

async function makePerson(): Promise<string> {
  return (await pell.call('POST /api/people', { body: { fullName: `Ann Reed ${crypto.randomUUID()}` } })).body
    .person.id;
}
const here = async (client: typeof pell, id: string, body: object) =>
  (await client.call('PUT /api/presence/:id', { params: { id }, body })).body.items;

it('colleagues at one record see each other and what is edited, until they leave or say nothing for a while', async () => {
  const id = await makePerson();
  expect(await here(pell, id, { tab: tabs.pell })).toEqual([]);
  expect(await here(ines, id, { tab: tabs.ines, field: 'Job title' })).toMatchObject([
    { name: 'Pell Garrick', field: null, isMe: false },
  ]);
  expect(await here(pell, id, { tab: tabs.pell })).toMatchObject([
    { name: 'Ines Tolland', field: 'Job title' },
  ]);
  await here(ines, id, { tab: tabs.ines });
  expect(await here(pell, id, { tab: tabs.pell })).toMatchObject([{ name: 'Ines Tolland', field: null }]);
  await here(ines, id, { tab: tabs.ines, isHere: false });
  expect(await here(pell, id, { tab: tabs.pell })).toEqual([]);
  await here(ines, id, { tab: tabs.ines });
  later(24);
  expect(await here(pell, id, { tab: tabs.pell })).toHaveLength(1);
  later(26);
  expect(await here(pell, id, { tab: tabs.pell })).toEqual([]);
});

it('one’s own other tab is there as oneself, and several tabs of a colleague are one colleague', async () => {
  const id = await makePerson();
  await here(pell, id, { tab: tabs.pell, field: 'Name' });
  await here(ines, id, { tab: tabs.ines });
  await here(ines, id, { tab: crypto.randomUUID(), field: 'Address' });
  expect(await here(pell, id, { tab: crypto.randomUUID() })).toMatchObject([
    { name: 'Ines Tolland', field: 'Address', isMe: false },
    { name: 'Pell Garrick', field: 'Name', isMe: true },
  ]);
});

it('nobody speaks for another one’s tab, and a record that is hidden tells nothing', async () => {
  const id = await makePerson();
  await here(pell, id, { tab: tabs.pell, field: 'Name' });
  await here(ines, id, { tab: tabs.pell, isHere: false });
  expect(await here(mara, id, { tab: tabs.mara })).toMatchObject([{ name: 'Pell Garrick', field: 'Name' }]);
  const { id: me } = (await pell.call('GET /api/session')).body;
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'named', peopleIds: [me] },
  });
  expect(
    (await ines.call('PUT /api/presence/:id', { params: { id }, body: { tab: tabs.ines } })).status,
  ).toBe(404);
});

it('everybody who may see the record is told at once, of what is new and not of each time it is said', async () => {
  const id = await makePerson();
  const feed = new LiveFeed(databaseUrl());
  await feed.start();
  const heard: string[] = [];
  const isHeard = (count: number): Promise<void> =>
    new Promise((resolve) => {
      const look = (): void => (heard.length >= count ? resolve() : void setTimeout(look, 10));
      look();
    });
  feed.subscribe((payload) => heard.push(payload));
  await here(pell, id, { tab: tabs.pell });
  await isHeard(1);
  await here(pell, id, { tab: tabs.pell });
  await here(pell, id, { tab: tabs.pell, field: 'Name' });
  await isHeard(2);
  await here(pell, id, { tab: tabs.pell, isHere: false });
  await isHeard(3);
  await feed.stop();
  expect(heard).toEqual(Array(3).fill(JSON.stringify({ presence: id })));
  const actor = { id: 'a', name: '', email: '', role: 'rep', timeZone: 'UTC' } as const;
  expect(noticeFor(actor, heard[0] ?? '')).toBe(JSON.stringify({ presence: id }));
  expect(noticeFor(actor, JSON.stringify({ presence: id, readers: { [id]: ['b'] } }))).toBeNull();
});
