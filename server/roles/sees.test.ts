import type { Right } from '@emporikon/core/rights/rights';
import { noticeFor } from '../events/routes';
import { readOperations, requestsFor, textOf } from '../testing/asking';
import { makeFamily, type Kept } from '../testing/families';
import { useHouse, type Client } from '../testing/harness';
import { addColleague, without, withRole } from '../testing/roleHolders';

const { house, ines } = useHouse();
let joss: Client;
let records: Kept[];
const holderOf = (rights: readonly Right[]) => withRole(house, joss, rights);
const secretsOf = (...kinds: Kept['kind'][]): string[] =>
  records.filter(({ kind }) => kinds.includes(kind)).flatMap(({ secrets }) => secrets);

beforeAll(async () => {
  await addColleague('joss', 'admin');
  joss = await house.as('joss@wharfside.example');
  records = await makeFamily(ines);
  await house.work();
}, 120_000);

const CASES: [string, string[], Kept['kind'][]][] = [
  ['no deals', ['deals'], ['deals']],
  ['no leads', ['leads'], ['leads']],
  ['no tasks', ['tasks'], ['tasks']],
  ['no history', ['ledger'], ['ledger']],
  // Names stand in what they wrote, and in what was noted of them.
  ['no people, history or Arrivals', ['people', 'ledger', 'captures'], ['people', 'ledger', 'captures']],
  ['no companies', ['companies'], ['companies']],
];
it.each(CASES)(
  '%s: nothing that is asked of the program tells of them',
  async (_, gone, kinds) => {
    const [holder, forbidden] = [await holderOf(without(...gone)), secretsOf(...kinds)];
    const leaks: string[] = [];
    const told = new Set<string>();
    for (const operation of await readOperations(house.anonymous))
      for (const url of requestsFor(operation, records)) {
        const text = await textOf(holder.client, url);
        const leaked = forbidden.filter((secret) => text.includes(secret));
        if (leaked.length) leaks.push(`${url}: ${leaked.join(', ')}`);
        for (const record of records)
          for (const secret of record.secrets) if (text.includes(secret)) told.add(secret);
      }
    expect(leaks).toEqual([]);
    // All the rest is told, so that a question finds what there is to be found.
    const open = records.flatMap(({ kind, secrets }) => (kinds.includes(kind) ? [] : secrets));
    expect(open.filter((secret) => !told.has(secret))).toEqual([]);
  },
  600_000,
);

it('asking for records that a role does not include is refused in words', async () => {
  const { client } = await holderOf(without('deals'));
  const list = await client.call('GET /api/deals');
  expect([list.status, list.body]).toMatchObject([403, { detail: expect.stringContaining('see deals') }]);
  const asked = await client.call('POST /api/queries', { body: { query: { kind: 'deal' } } });
  expect(asked.status).toBe(403);
  const counted = await client.call('POST /api/queries', {
    body: { query: { kind: 'person', columns: ['openDeals'] } },
  });
  expect(counted.body.items.map(({ values }) => Number(values.openDeals ?? 0))).toEqual(
    counted.body.items.map(() => 0),
  );
});

it('the stream names no row of a kind that is not seen', () => {
  const payload = JSON.stringify({
    actorId: crypto.randomUUID(),
    touched: [
      { table: 'deals', id: 'a-deal' },
      { table: 'people', id: 'a-person' },
    ],
  });
  const actor = { id: crypto.randomUUID(), name: '', email: '', role: 'rep' as const, timeZone: 'utc' };
  expect(noticeFor(actor, payload)).toContain('a-deal');
  const told = noticeFor({ ...actor, granted: without('deals') }, payload);
  expect(told).toContain('a-person');
  expect(told).not.toContain('a-deal');
});
