import { actionsOf, RECORD_AREAS, type Right } from '@emporikon/core/rights/rights';
import { User } from '../db/models/users';
import { everything } from '../testing/everything';
import { makeFamily, type Kept } from '../testing/families';
import { writesTo } from '../testing/writes';
import { useHouse, type Client } from '../testing/harness';
import { addColleague, ALL, without, withRole } from '../testing/roleHolders';

const { house, pell, ines, mara } = useHouse();
let joss: Client;
let records: Kept[];
let serial = 0;

const holderOf = (rights: readonly Right[], basedOn: 'rep' | 'manager' = 'rep') =>
  withRole(house, joss, rights, basedOn);
const idOf = (kind: Kept['kind']): string => records.find((record) => record.kind === kind)?.id ?? '';
beforeAll(async () => {
  await addColleague('joss', 'admin');
  joss = await house.as('joss@wharfside.example');
  records = await makeFamily(ines);
  await house.work();
}, 120_000);

it('who may only look changes nothing, by any request that names a record', async () => {
  const { client } = await holderOf(RECORD_AREAS.map((area) => `${area}.see` as const));
  const { body: other } = await ines.call('POST /api/people', { body: { fullName: 'Somebody Else' } });
  const before = await everything(house.sequelize);
  const done: string[] = [];
  for (const record of records)
    for (const [method, url, body] of writesTo(record, other.person.id)) {
      const { status } = await client.raw(method, url, body);
      if (status !== 403) done.push(`${method} ${url}: ${status}`);
    }
  expect(done).toEqual([]);
  for (const [method, url] of [
    ['POST', '/api/captures'],
    ['POST', '/api/people'],
    ['POST', `/api/clones/deal/${idOf('deals')}`],
    ['POST', `/api/people/${idOf('people')}/erasure`],
    ['PATCH', `/api/claims/${crypto.randomUUID()}`],
    ['POST', `/api/suggestions/${crypto.randomUUID()}/refusal`],
    ['POST', `/api/look-alikes/${crypto.randomUUID()}/different`],
    ['POST', `/api/ledger/${crypto.randomUUID()}/annotation/share`],
    ['POST', '/api/look-alikes/run'],
    ['POST', '/api/lists'],
  ] as const) {
    const { status } = await client.raw(
      method,
      url,
      url.endsWith('people') ? { fullName: 'Nobody' } : url.includes('clones') ? { name: 'Copied' } : {},
    );
    if (status !== 403) done.push(`${method} ${url}: ${status}`);
  }
  expect(done).toEqual([]);
  expect(await everything(house.sequelize)).toEqual(before);
});

it('each action is taken away by itself: with it a request succeeds that is refused without', async () => {
  const version = async (): Promise<number> =>
    (await ines.call('GET /api/people/:id', { params: { id: idOf('people') } })).body.version;
  const requests: Partial<Record<Right, (client: Client) => Promise<number>>> = {
    'people.add': async (client) =>
      (await client.call('POST /api/people', { body: { fullName: `Added ${++serial}` } })).status,
    'people.change': async (client) =>
      (
        await client.call('PATCH /api/people/:id', {
          params: { id: idOf('people') },
          body: { version: await version(), department: `Yard ${++serial}` },
        })
      ).status,
    'companies.add': async (client) =>
      (await client.call('POST /api/companies', { body: { name: `Added ${++serial} Ltd` } })).status,
    'deals.add': async (client) =>
      (
        await client.call('POST /api/deals', {
          body: { title: `Added ${++serial}`, companyId: idOf('companies'), personId: idOf('people') },
        })
      ).status,
    'tasks.add': async (client) =>
      (
        await client.call('POST /api/tasks', {
          body: { title: `Added ${++serial}`, dueAt: '2026-12-01T09:00:00Z', personId: idOf('people') },
        })
      ).status,
    'ledger.add': async (client) =>
      (
        await client.call('POST /api/ledger', {
          body: { line: `note: added ${++serial}`, about: { personId: idOf('people') } },
        })
      ).status,
    'people.export': async (client) => (await client.raw('GET', '/api/people.csv')).status,
    'deals.export': async (client) =>
      (
        await client.call('POST /api/exports', {
          body: { query: { kind: 'deal', columns: ['title'] }, format: 'csv' },
        })
      ).status,
    'people.bulk': async (client) =>
      (
        await client.call('POST /api/bulk-changes', {
          body: { kind: 'person', on: { ids: [idOf('people')] }, steps: [{ do: 'tag', tags: ['seen'] }] },
        })
      ).status,
  };
  for (const [right, request] of Object.entries(requests)) {
    const [held, taken] = [await holderOf(ALL), await holderOf(without(right))];
    expect([right, (await request(held.client)) < 300]).toEqual([right, true]);
    expect([right, await request(taken.client)]).toEqual([right, 403]);
  }
}, 120_000);

it('what comes of a command of itself asks for no further right, and goes back with it', async () => {
  const { client } = await holderOf(without('people.change', 'ledger'));
  const { deal } = (
    await ines.call('POST /api/deals', {
      body: { title: 'To be won', companyId: idOf('companies'), personId: idOf('people') },
    })
  ).body;
  const stages = (await client.call('GET /api/stages')).body.items;
  const [version, standing] = [
    async (): Promise<number> =>
      (await ines.call('GET /api/deals/:id', { params: { id: deal.id } })).body.version,
    async (): Promise<string> =>
      (await ines.call('GET /api/people/:id', { params: { id: idOf('people') } })).body.standing,
  ];
  const before = await standing();
  const reasons = (await client.call('GET /api/close-reasons')).body.items;
  const won = await client.call('PATCH /api/deals/:id', {
    params: { id: deal.id },
    body: {
      version: await version(),
      stageId: stages.find(({ kind }) => kind === 'won')?.id ?? '',
      closeReasonId: reasons.find(({ kind }) => kind === 'won')?.id ?? null,
    } as never,
  });
  expect([won.status, await standing()]).toEqual([200, 'customer']);
  const undone = await client.call('POST /api/events/:id/undo', { params: { id: won.body.eventId ?? '' } });
  expect([undone.status, await standing()]).toEqual([200, before]);
  const byHand = await client.call('PATCH /api/people/:id', {
    params: { id: idOf('people') },
    body: {
      version: (await ines.call('GET /api/people/:id', { params: { id: idOf('people') } })).body.version,
      standing: 'partner',
    },
  });
  expect([byHand.status, byHand.body]).toMatchObject([
    403,
    { detail: expect.stringContaining('change people') },
  ]);
});

it('a line of the composer takes what it saves: a task without the history, nothing else', async () => {
  const { client } = await holderOf(without('ledger.add'));
  const save = (line: string) =>
    client.call('POST /api/ledger', { body: { line, about: { personId: idOf('people') } } });
  expect((await save('call Thursday 11am about the quote')).body.saved).toEqual(['next move']);
  expect((await save('note: they are closed on Mondays')).status).toBe(403);
});

it('a look-up takes the right to change who is looked up, before a source is paid', async () => {
  const { client } = await holderOf(without('people.change'));
  const refused = await client.call('POST /api/look-ups', { body: { people: [idOf('people')] } });
  expect([refused.status, refused.body]).toMatchObject([
    403,
    { detail: expect.stringContaining('change people') },
  ]);
});

it('a colleague’s change is taken back only by whoever may make it', async () => {
  const { client } = await holderOf(without('people.change'));
  const params = { id: idOf('people') };
  const { version } = (await ines.call('GET /api/people/:id', { params })).body;
  const { body } = await ines.call('PATCH /api/people/:id', {
    params,
    body: { version, department: 'Dispatch' },
  });
  const undo = (who: Client) => who.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await undo(client)).status).toBe(403);
  expect((await undo(pell)).status).toBe(200);
});

it('a note of a colleague is taken back by whoever may change the history, one’s own by whoever may add to it', async () => {
  const write = (who: Client, words: string) =>
    who.call('POST /api/ledger', { body: { line: `note: ${words}`, about: { personId: idOf('people') } } });
  const undo = (who: Client, id: string | null) =>
    who.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
  const { client: looks } = await holderOf(without('ledger.change', 'ledger.add', 'ledger.delete'));
  const { client: adds } = await holderOf(without('ledger.change'));
  const theirs = (await write(ines, 'they load at the back')).body.eventId;
  expect([(await undo(looks, theirs)).status, (await undo(adds, theirs)).status]).toEqual([403, 403]);
  const own = (await write(adds, 'they load at the front')).body.eventId;
  expect((await undo(adds, own)).status).toBe(200);
  expect((await undo(pell, theirs)).status).toBe(200);
});

it('settings are given by area, also to somebody who is no manager', async () => {
  const { client } = await holderOf([...ALL, 'settings.scoring']);
  const made = await client.call('POST /api/questions', { body: { label: 'Who unloads?' } });
  expect(made.status).toBeLessThan(300);
  expect((await client.call('POST /api/tags/changes', { body: { from: 'a', to: 'b' } })).status).toBe(403);
  expect((await client.call('GET /api/admin/users')).status).toBe(403);
  expect((await client.call('GET /api/roles')).status).toBe(403);
  const undo = (who: Client) =>
    who.call('POST /api/events/:id/undo', { params: { id: made.body.eventId ?? '' } });
  expect((await undo(pell)).status).toBe(403);
  expect((await undo(client)).status).toBe(200);
});

it('a manager’s own role may have fewer settings than a manager, and still manages', async () => {
  const { client } = await holderOf(without('people.export'), 'manager');
  expect((await client.call('GET /api/session')).body).toMatchObject({ role: 'manager' });
  expect((await client.call('POST /api/questions', { body: { label: 'Who loads?' } })).status).toBe(403);
  expect((await client.call('GET /api/hidden-matches')).status).toBe(200);
});

it('a change of a role counts at once, for sessions, tokens and what is under way', async () => {
  const { client, roleId, userId } = await holderOf(ALL);
  const token = (await client.call('POST /api/tokens', { body: { name: 'script' } })).body.token;
  const byToken = (): Promise<number> =>
    house.app
      .inject({ url: '/api/deals', headers: { authorization: `Bearer ${token}` } })
      .then(({ statusCode }) => statusCode);
  const bulk = await client.call('POST /api/bulk-changes', {
    body: { kind: 'person', on: { ids: [idOf('people')] }, steps: [{ do: 'tag', tags: ['late'] }] },
  });
  await client.call('POST /api/bulk-changes/:id/start', { params: { id: bulk.body.change.id } });
  expect([(await client.call('GET /api/deals')).status, await byToken()]).toEqual([200, 200]);

  const params = { id: roleId };
  const changed = await joss.call('PATCH /api/roles/:id', {
    params,
    body: { version: 1, basedOn: 'manager', rights: without('deals', 'people.bulk') },
  });
  expect(changed.status).toBe(200);
  expect([(await client.call('GET /api/deals')).status, await byToken()]).toEqual([403, 403]);
  expect((await User.findByPk(userId))?.role).toBe('manager');
  await house.work();
  const after = await client.call('GET /api/bulk-changes/:id', { params: { id: bulk.body.change.id } });
  expect(after.body).toMatchObject({
    state: 'failed',
    trouble: expect.stringContaining('bulk-change people'),
  });
  expect(
    (await joss.call('PATCH /api/roles/:id', { params, body: { version: 1, name: 'Late' } })).status,
  ).toBe(409);
  // Back to what it was, with one undo.
  await joss.call('POST /api/events/:id/undo', { params: { id: changed.body.eventId ?? '' } });
  expect((await client.call('GET /api/deals')).status).toBe(200);
  expect((await User.findByPk(userId))?.role).toBe('rep');
});

it('roles are kept in order by admins: whole rights, one of a name, none removed that somebody has', async () => {
  const add = (who: Client, name: string) =>
    who.call('POST /api/roles', { body: { name, rights: ['deals.bulk'] } });
  expect([(await add(pell, 'Desk')).status, (await add(mara, 'Desk')).status]).toEqual([403, 403]);
  const { body } = await add(joss, 'Desk');
  const own = async () => (await joss.call('GET /api/roles')).body.items.find(({ id }) => id === body.id);
  expect(await own()).toMatchObject({ rights: ['deals.see', 'deals.change', 'deals.bulk'], users: [] });
  expect([(await add(joss, 'dESK')).status, (await add(joss, 'Manager')).status]).toEqual([409, 409]);

  const userId = await addColleague('desk', 'rep');
  const user = { params: { id: userId } };
  const given = await joss.call('PATCH /api/admin/users/:id', {
    ...user,
    body: { version: 1, roleId: body.id },
  });
  expect((await own())?.users).toEqual(['Desk Ferrow']);
  const kept = await joss.call('DELETE /api/roles/:id', { params: { id: body.id } });
  expect([kept.status, kept.body]).toMatchObject([
    409,
    { detail: expect.stringContaining('Desk Ferrow has') },
  ]);
  const back = await joss.call('PATCH /api/admin/users/:id', {
    ...user,
    body: { version: given.body.version, role: 'rep' },
  });
  expect(back.body).toMatchObject({ role: 'rep', roleId: null });
  expect((await joss.call('DELETE /api/roles/:id', { params: { id: body.id } })).status).toBe(200);
  expect(await own()).toBeUndefined();
  const nobody = await joss.call('POST /api/admin/users', {
    body: { name: 'No Body', email: 'no@wharfside.example', roleId: body.id },
  });
  expect([nobody.status, nobody.body]).toMatchObject([422, { fields: { roleId: 'does not exist' } }]);
});

it('a session says what its user may do', async () => {
  expect((await pell.call('GET /api/session')).body.rights).toEqual(ALL);
  const { client } = await holderOf(['deals.export', 'settings.data']);
  expect((await client.call('GET /api/session')).body.rights).toEqual([
    'people.see',
    'people.delete',
    'deals.see',
    'deals.export',
    'settings.data',
  ]);
  expect(actionsOf('deals')).not.toContain('delete');
});
