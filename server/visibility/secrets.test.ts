import type { SightKind, Visibility } from '@emporikon/contract/visibility';
import { QueryTypes } from 'sequelize';
import { User } from '../db/models/users';
import { LiveFeed } from '../events/live';
import { noticeFor } from '../events/routes';
import { findLookAlikes } from '../lookalikes/run';
import { readOperations, requestsFor, textOf } from '../testing/asking';
import { everything } from '../testing/everything';
import { isWithin, makeFamily, type Family, type Kept } from '../testing/families';
import { writesTo } from '../testing/writes';
import { databaseUrl, mail, useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
type Name = 'pell' | 'ines' | 'mara' | 'noor' | 'oona' | 'joss';
const clients = { pell, ines, mara } as Record<Name, Client>;
const ids = {} as Record<Name, string>;

/** Whose the records are, and who is let in by each choice besides. */
const SEES: Record<Visibility, readonly Name[]> = {
  everybody: ['pell', 'ines', 'mara', 'noor', 'oona', 'joss'],
  owner: ['ines', 'noor'],
  team: ['ines', 'noor', 'oona'],
  named: ['ines', 'pell'],
};
const RESTRICTED: readonly [SightKind, Visibility][] = [
  ['companies', 'owner'],
  ['companies', 'team'],
  ['people', 'named'],
  ['people', 'owner'],
  ['leads', 'team'],
  ['deals', 'owner'],
  ['captures', 'named'],
  ['ledger', 'owner'],
  ['tasks', 'named'],
];
const families: Family[] = [];
const records = (): Kept[] => families.flatMap((family) => family.records);

/** The records of all families that somebody may not see. */
const hiddenFrom = (name: Name): Kept[] =>
  families.flatMap(({ records: all, restricted, visibility }) => {
    const closed = all.filter(({ kind }) => kind === restricted);
    return SEES[visibility].includes(name)
      ? []
      : all.filter((record) => closed.some((one) => isWithin(record, one)));
  });
const secretsOf = (some: readonly Kept[]): string[] => some.flatMap(({ secrets }) => secrets);

async function addColleague(name: Name, fullName: string, role: User['role']): Promise<void> {
  const like = await User.findOne({ where: { email: 'pell@wharfside.example' }, rejectOnEmpty: true });
  await User.create({
    ...like.get({ plain: true }),
    id: crypto.randomUUID(),
    name: fullName,
    email: `${name}@wharfside.example`,
    role,
  });
  clients[name] = await house.as(`${name}@wharfside.example`);
}

beforeAll(async () => {
  await addColleague('noor', 'Noor Vance', 'manager');
  await addColleague('oona', 'Oona Pike', 'rep');
  await addColleague('joss', 'Joss Ferrow', 'admin');
  for (const name of Object.keys(clients) as Name[])
    ids[name] = (await clients[name].call('GET /api/session')).body.id;
  const teams: [string, Name, Name[]][] = [
    ['North', 'mara', ['pell']],
    ['South', 'noor', ['ines', 'oona']],
  ];
  const teamIds: string[] = [];
  for (const [name, manager, members] of teams) {
    const { body } = await mara.call('POST /api/teams', { body: { name, managerIds: [ids[manager]] } });
    teamIds.push(body.id);
    for (const one of members)
      await mara.call('PATCH /api/users/:id', { params: { id: ids[one] }, body: { team: name } });
  }
  for (const [restricted, visibility] of RESTRICTED) {
    const made = await makeFamily(ines);
    families.push({ restricted, visibility, records: made });
  }
  await findLookAlikes(house.tools, 'person');
  for (const { restricted, visibility, records: all } of families)
    for (const { kind, id } of all.filter((one) => one.kind === restricted)) {
      const { status, body } = await ines.call('PUT /api/visibility/:kind/:id', {
        params: { kind, id },
        body: { visibility, teamId: teamIds[1], peopleIds: [ids.pell] },
      });
      if (status !== 200) throw new Error(JSON.stringify(body));
    }
  await house.work();
}, 600_000);

it.each(['pell', 'mara', 'noor', 'oona', 'joss', 'ines'] as const)(
  'nothing that is asked of the program tells %s of what they cannot see',
  async (name) => {
    const [hidden, told] = [hiddenFrom(name), new Set<string>()];
    const [forbidden, all] = [secretsOf(hidden), secretsOf(records())];
    const leaks: string[] = [];
    for (const operation of await readOperations(house.anonymous))
      for (const url of requestsFor(operation, hidden.length ? hidden : records())) {
        const text = await textOf(clients[name], url);
        for (const secret of all) if (text.includes(secret)) told.add(secret);
        const leaked = forbidden.filter((secret) => text.includes(secret));
        if (leaked.length) leaks.push(`${url}: ${leaked.join(', ')}`);
      }
    expect(leaks).toEqual([]);
    if (name === 'ines') expect(hidden).toEqual([]);
    // Who may see most is told most; so the question can find what there is to be found.
    const open = all.filter((secret) => !forbidden.includes(secret));
    if (name === 'ines') expect(open.filter((secret) => !told.has(secret))).toEqual([]);
    expect(told.size).toBeGreaterThan(open.length / 4);
  },
  600_000,
);

/** Somebody whom everybody may see. */
const openPerson = (): string =>
  families.find(({ restricted }) => restricted === 'ledger')?.records.find(({ kind }) => kind === 'people')
    ?.id ?? '';

it('nobody writes to what they cannot see, nor undoes what was done to it', async () => {
  for (const name of ['pell', 'mara', 'joss'] as const) {
    const hidden = hiddenFrom(name);
    const before = await everything(house.sequelize);
    const done: string[] = [];
    const forbidden = secretsOf(hidden);
    for (const record of hidden)
      for (const [method, url, body] of writesTo(record, openPerson())) {
        const { status, text } = await clients[name].raw(method, url, body);
        if (status < 400 || status >= 500 || forbidden.some((secret) => text.toLowerCase().includes(secret)))
          done.push(`${name}: ${method} ${url} ${JSON.stringify(body)}: ${status} ${text.slice(0, 200)}`);
      }
    const touched = new Set(hidden.map(({ id }) => id));
    const events = await house.sequelize.query<{ id: string; changes: { id: string }[] }>(
      'SELECT id, changes FROM events',
      {
        type: QueryTypes.SELECT,
      },
    );
    for (const { id, changes } of events.filter((event) =>
      event.changes.some((change) => touched.has(change.id)),
    )) {
      const { status } = await clients[name].raw('POST', `/api/events/${id}/undo`);
      if (status !== 404)
        done.push(`${name}: undo of ${JSON.stringify(changes.map((change) => change.id))}: ${status}`);
    }
    expect(done).toEqual([]);
    expect(await everything(house.sequelize)).toEqual(before);
  }
}, 600_000);

it('whoever may see all of it may write all of it, by the same requests', async () => {
  const [family] = families.filter(({ restricted }) => restricted === 'tasks');
  const refused: string[] = [];
  for (const record of family?.records ?? [])
    for (const [method, url, body] of writesTo(record, openPerson())) {
      const { status, text } = await ines.raw(method, url, body);
      // That a version is stale, or that it was filed already, is told only of what may be seen.
      if (status >= 400 && status !== 409) refused.push(`${method} ${url}: ${status} ${text.slice(0, 160)}`);
    }
  expect(refused).toEqual([]);
});

it('the stream names no record to whom cannot see it', async () => {
  const feed = new LiveFeed(databaseUrl());
  await feed.start();
  const heard: string[] = [];
  feed.subscribe((payload) => heard.push(payload));
  const [person] = hiddenFrom('pell').filter(({ kind }) => kind === 'people');
  const params = { id: person?.id ?? '' };
  const { version } = (await ines.call('GET /api/people/:id', { params })).body;
  const { body } = await ines.call('PATCH /api/people/:id', {
    params,
    body: { version, department: 'Yard' },
  });
  expect(body.eventId).toBeTruthy();
  for (
    const end = Date.now() + 5000;
    !heard.some((one) => one.includes(body.eventId ?? '')) && Date.now() < end;
  )
    await new Promise((resolve) => setTimeout(resolve, 20));
  await feed.stop();
  const toldTo = (name: Name, role: User['role']) =>
    heard
      .map((payload) => noticeFor({ id: ids[name], name, email: '', role, timeZone: 'utc' }, payload))
      .join('\n');
  expect(toldTo('noor', 'manager')).toContain(person?.id);
  expect(toldTo('pell', 'rep')).not.toContain(person?.id);
});

it('an import is judged by what whoever asked for it may see, and leaves the rest alone', async () => {
  const [person] = hiddenFrom('pell').filter(({ kind }) => kind === 'people');
  const [before] = await house.sequelize.query('SELECT * FROM people WHERE id = $id::uuid', {
    bind: { id: person?.id },
  });
  const { body } = await pell.call('POST /api/imports', {
    raw: `Name,Email,Job title\nSomebody Else,${person?.secrets[0] ?? ''}@elsewhere.example,Taken over\n`,
    type: 'text/csv',
    query: { name: 'cards.csv' },
  });
  const params = { id: body.id };
  await pell.call('PUT /api/imports/:id/mapping', {
    params,
    body: { version: body.version, mapping: body.mapping, choices: {} },
  });
  await house.work();
  const shown = await pell.raw('GET', `/api/imports/${body.id}`);
  expect(JSON.parse(shown.text)).toMatchObject({ state: 'previewed', counts: { new: 1, same: 0, maybe: 0 } });
  await pell.call('POST /api/imports/:id/start', { params });
  await house.work();
  const told = await pell.raw('GET', `/api/imports/${body.id}`);
  expect(JSON.parse(told.text)).toMatchObject({ state: 'done' });
  const [after] = await house.sequelize.query('SELECT * FROM people WHERE id = $id::uuid', {
    bind: { id: person?.id },
  });
  expect(after).toEqual(before);
});

it('somebody who comes upon a hidden record learns that there is one, and a manager learns who did', async () => {
  const [person] = hiddenFrom('pell').filter(({ kind }) => kind === 'people');
  const email = `${person?.secrets[0] ?? ''}@elsewhere.example`;
  const capture = await pell.call('POST /api/captures', {
    raw: mail({
      from: `Somebody <${email}>`,
      subject: 'Bikes',
      body: 'Two bikes, please.',
      sign: 'Somebody',
    }),
  });
  expect(capture.body.verdict).toMatchObject({ hidden: true, person: { kind: 'new', matches: [] } });
  for (const refused of [
    await pell.call('POST /api/people', { body: { fullName: 'Somebody New', email } }),
    await pell.call('POST /api/people/find-or-create', { body: { fullName: 'Somebody New', email } }),
    await pell.call('POST /api/captures/:id/filing', {
      params: { id: capture.body.id },
      body: { person: 'new' },
    }),
  ])
    expect([refused.status, refused.body.type]).toEqual([409, 'urn:emporikon:problem:hidden-record']);
  const told = (await clients.noor.call('GET /api/hidden-matches')).body.items;
  expect(told.map(({ by, record }) => [by.name, record.id])).toEqual([['Pell Garrick', person?.id]]);
  expect((await mara.call('GET /api/hidden-matches')).body.items).toEqual([]);
  await clients.noor.call('POST /api/hidden-matches/:id/settle', { params: { id: told[0]?.id ?? '' } });
  expect((await clients.noor.call('GET /api/hidden-matches')).body.items).toEqual([]);
});
