import { strFromU8, unzipSync } from 'fflate';
import { delegating } from '../testing/delegating';
import { filing } from '../testing/filing';
import { lettering } from '../testing/lettering';
import { dump, linesTelling } from '../testing/dump';
import { mail, useHouse, type Client } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines, mara } = useHouse();
const { person, enter, ledger } = saying(pell);
const { put } = filing(house);
const { task } = delegating;
const { writeAll } = lettering(house);

/** Words, addresses and digits that stand nowhere but with this one person. */
const NAME = 'Zebulon Quartermain';
const EMAIL = 'zeb.quartermain@quarry.example';
const PHONE = '+44 20 7946 0958';
const TELLING = ['quartermain', 'zebulon', '79460958', 'quartz-secret'];
const CSV = `Name,Email,Company\n${NAME},${EMAIL},Quarry Bakes\nOlive Harrow,olive@harrow.example,Harrow Florists\n`;
const found = (text: string): string[] => linesTelling(text, TELLING);

const ids: Record<string, string> = {};
const erase = (id: string, by: Client = mara) =>
  by.call('POST /api/people/:id/erasure', { params: { id }, body: { note: 'They asked by letter.' } });
const preview = (id: string, by: Client = mara) => by.call('GET /api/people/:id/erasure', { params: { id } });
const importRows = async () => {
  const bench = (
    await pell.call('POST /api/imports', { raw: CSV, type: 'text/csv', query: { name: 'fair.csv' } })
  ).body;
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: bench.mapping, choices: {} },
  });
  await house.work();
  return bench.id;
};

/** One person on whom everything was done that leaves a trace, some of it together with others. */
async function fill(): Promise<void> {
  const capture = (
    await pell.call('POST /api/captures', {
      raw: mail({
        from: `${NAME} <${EMAIL}>`,
        subject: 'The quartz-secret order',
        sign: `${NAME}\nBuyer\nQuarry Bakes\nT ${PHONE}`,
      }),
      type: 'message/rfc822',
    })
  ).body;
  ids.capture = capture.id;
  await pell.call('POST /api/captures/:id/filing', { params: { id: capture.id }, body: {} });
  const [zeb] = (await pell.call('GET /api/people', { query: { q: 'Quartermain' } })).body.items;
  ids.zeb = zeb?.id ?? '';
  ids.olive = await person('Olive Harrow');
  const about = { personId: ids.zeb };
  await pell.call('PATCH /api/people/:id', {
    params: { id: ids.zeb },
    body: {
      version: (await pell.call('GET /api/people/:id', { params: { id: ids.zeb } })).body.version,
      background: 'Collects quartz-secret.',
      tags: ['zebulon fan'],
    },
  });
  const said = await enter(
    pell,
    { headline: 'Zebulon told us the quartz-secret', body: `${NAME} is moving.` },
    about,
  );
  ids.own = said.body.id;
  await pell.call('PATCH /api/ledger/:id', {
    params: { id: ids.own },
    body: { version: 1, headline: 'Zebulon told us all' },
  });
  const both = await enter(
    pell,
    {
      headline: `Met Olive Harrow and ${NAME}`,
      body: `Call Zebulon on 020 7946 0958, or ${EMAIL}. @ines will know.`,
    },
    about,
    { personId: ids.olive },
  );
  ids.both = both.body.id;
  ids.lead = (
    await pell.call('POST /api/leads', { body: { title: 'Quartermain: four bikes', personId: ids.zeb } })
  ).body.lead.id;
  ids.deal = (
    await pell.call('POST /api/deals', {
      body: { title: 'Bikes for Zebulon Quartermain', personId: ids.zeb, amountMinor: 400_000 },
    })
  ).body.deal.id;
  await task(pell, { title: 'Ring Zebulon', personId: ids.zeb, notes: 'about the quartz-secret' });
  await task(pell, {
    title: 'Quote for Quartermain',
    dealId: ids.deal,
    assigneeId: await delegating.idOf(ines),
  });
  await pell.call('POST /api/cases', { body: { title: 'Zebulon is cross', personId: ids.zeb } });
  await pell.call('POST /api/projects', {
    body: { title: 'Quartermain delivery', people: [ids.zeb] },
  });
  await writeAll(pell, { id: ids.zeb, name: NAME, email: EMAIL }, 'quartz-secret');
  ids.file = (await put(pell, 'zebulon.txt', 'the quartz-secret plan', { personId: ids.zeb })).body.id;
  const twin = await person('Zebulon Quartermaine');
  await pell.call('POST /api/merges', {
    body: { kind: 'person', survivorId: ids.zeb, mergedIds: [twin], choices: { fullName: ids.zeb } },
  });
  await pell.call('POST /api/people/find-or-create', {
    body: { fullName: NAME, email: EMAIL },
    headers: {},
  });
  await pell.call('PUT /api/ledger/:id/annotation', {
    params: { id: ids.both },
    body: { words: 'Zebulon seemed pleased' },
  });
  const bulk = (
    await pell.call('POST /api/bulk-changes', {
      body: { kind: 'person', steps: [{ do: 'tag', tags: ['fair'] }], on: { ids: [ids.zeb, ids.olive] } },
    })
  ).body;
  await house.work();
  await pell.call('POST /api/bulk-changes/:id/start', { params: { id: bulk.change.id } });
  await pell.call('POST /api/exports', {
    body: { query: { kind: 'person', columns: ['fullName', 'email'] }, format: 'csv' },
  });
  await task(pell, {
    title: 'Trial ride with Zebulon',
    kind: 'meeting',
    dueAt: '2099-12-03T10:00:00Z',
    endAt: '2099-12-03T10:45:00Z',
    allDay: false,
    isInviting: true,
    people: [{ personId: ids.zeb }, { personId: ids.olive }],
  });
  await house.work();
  const bench = await importRows();
  await pell.call('POST /api/imports/:id/start', { params: { id: bench } });
  await house.work();
}

beforeAll(async () => {
  await fill();
}, 120_000);

it('only who answers for it exports or erases, and the preview counts what would go', async () => {
  expect((await preview(ids.zeb!, pell)).status).toBe(403);
  expect((await erase(ids.zeb!, pell)).status).toBe(403);
  const { body } = await preview(ids.zeb!);
  expect(body.obstacles).toEqual([]);
  expect(body.counts).toMatchObject({ captures: 2, leads: 2, deals: 1, cases: 1, files: 1, openTasks: 1 });
  expect(body.counts.entries).toBeGreaterThan(1);
});

it('everything about them comes in one archive, with the originals as they came in', async () => {
  expect((await pell.raw('GET', `/api/people/${ids.zeb}/everything.zip`)).status).toBe(403);
  const answer = await mara.raw('GET', `/api/people/${ids.zeb}/everything.zip`);
  expect(answer.status).toBe(200);
  const parts = unzipSync(new Uint8Array(answer.bytes));
  expect(
    Object.keys(parts)
      .map((name) => name.replace(/\d{4}-\d\d-\d\d/, 'DAY'))
      .sort(),
  ).toEqual([
    'README.txt',
    'files/1-zebulon.txt',
    'originals/DAY-1.eml',
    'originals/DAY-2.eml',
    'person.json',
  ]);
  expect(strFromU8(parts['files/1-zebulon.txt']!)).toBe('the quartz-secret plan');
  const data = JSON.parse(strFromU8(parts['person.json']!)) as Record<string, unknown[]> & {
    person: { full_name: string };
  };
  expect(data.person.full_name).toBe(NAME);
  expect(JSON.stringify(data['contact points'])).toContain(EMAIL);
  expect(JSON.stringify(data.ledger)).toContain('The quartz-secret order');
  expect(data.partsYouMayNotSee).toBe(0);
});

it('once erased, nothing in the whole database tells who they were, and what was counted is still there', async () => {
  expect(found(dump()).length).toBeGreaterThan(4);
  const before = {
    leads: await house.count('leads'),
    deals: await house.count('deals'),
    entries: await house.count('ledger_entries'),
  };
  const { status, body } = await erase(ids.zeb!);
  expect([status, body.counts?.captures]).toEqual([200, 2]);
  await house.work();
  expect(found(dump())).toEqual([]);
  expect({
    leads: await house.count('leads'),
    deals: await house.count('deals'),
    entries: await house.count('ledger_entries'),
  }).toEqual(before);
  const shared = (await ledger({ personId: ids.olive! })).items.find(({ id }) => id === ids.both);
  expect([shared?.headline, shared?.body]).toEqual([
    'Met Olive Harrow and [erased]',
    'Call [erased] on [erased], or [erased]. @ines will know.',
  ]);
  expect((await pell.call('GET /api/deals/:id', { params: { id: ids.deal! } })).body).toMatchObject({
    title: 'Bikes for [erased]',
    amountMinor: 400_000,
  });
  expect((await pell.call('GET /api/leads/:id', { params: { id: ids.lead! } })).body.title).toBe('Erased');
}, 60_000);

it('afterwards nobody is found under them, nothing can be written to them, and no undo brings anything back', async () => {
  const { status, body } = await pell.call('GET /api/people/:id', { params: { id: ids.zeb! } });
  expect([status, body.detail]).toEqual([
    404,
    expect.stringMatching(/^This person was erased on \d+ \w+ \d{4}\./),
  ]);
  const patch = { params: { id: ids.zeb! }, body: { version: 99, jobTitle: 'Buyer' } };
  expect((await pell.call('PATCH /api/people/:id', patch)).status).toBe(404);
  const contact = { params: { id: ids.zeb! }, body: { kind: 'email', value: 'new@quarry.example' } };
  expect((await pell.call('POST /api/people/:id/contacts', contact)).status).toBe(404);
  expect((await erase(ids.zeb!)).status).toBe(404);
  for (const inactive of ['with', 'only'])
    expect(
      (await pell.call('GET /api/people', { query: { inactive } })).body.items.map(
        ({ fullName }) => fullName,
      ),
    ).not.toContain('Erased person');
  const seen = await pell.call('POST /api/queries', {
    body: {
      query: {
        kind: 'person',
        filter: {
          any: [
            { field: 'inactive', op: 'is', value: true },
            { field: 'inactive', op: 'is', value: false },
          ],
        },
        columns: ['fullName'],
      },
    },
  });
  expect(JSON.stringify(seen.body)).toContain('Olive Harrow');
  expect(JSON.stringify(seen.body)).not.toContain('Erased person');
  const [rows] = await house.sequelize.query('SELECT id, command FROM events WHERE erased_at IS NOT NULL');
  expect(rows.length).toBeGreaterThan(10);
  for (const { id } of rows as { id: string }[])
    expect((await mara.call('POST /api/events/:id/undo', { params: { id } })).status).toBeGreaterThanOrEqual(
      400,
    );
  const [last] = (await mara.call('GET /api/erasures')).body.items;
  expect(last).toMatchObject({ by: { name: 'Mara Quill' }, reason: 'asked', note: 'They asked by letter.' });
  expect((await pell.call('GET /api/erasures')).status).toBe(403);
});

it('who was erased when is read page by page, newest first', async () => {
  await erase(await person('Wilf Tarn'));
  const first = (await mara.call('GET /api/erasures', { query: { limit: '1' } })).body;
  expect(first.items).toHaveLength(1);
  const second = (await mara.call('GET /api/erasures', { query: { limit: '1', cursor: first.next ?? '' } }))
    .body;
  expect(second.items).toHaveLength(1);
  expect(first.items[0]!.at > second.items[0]!.at).toBe(true);
});

it('an import leaves them out and says why; the rest of it is imported', async () => {
  const bench = await importRows();
  const seen = (await pell.call('GET /api/imports/:id', { params: { id: bench } })).body;
  expect(seen.counts).toMatchObject({ unusable: 1 });
  expect(seen.problems.map(({ text }) => text)).toContainEqual(
    expect.stringMatching(/^erased on \d+ \w+ \d{4}, so not imported again/),
  );
  const [rows] = await house.sequelize.query(
    "SELECT 1 FROM import_rows WHERE data::text ILIKE '%quartermain%'",
  );
  expect(rows).toEqual([]);
  const people = await house.count('people');
  await pell.call('POST /api/imports/:id/start', { params: { id: bench } });
  await house.work();
  const done = (await pell.call('GET /api/imports/:id', { params: { id: bench } })).body;
  expect([done.state, done.counts.rejected, await house.count('people')]).toEqual(['done', 2, people]);
});

it('an import that was looked through before does not bring them back either', async () => {
  const rows = 'Name,Email\nNico Vance,nico@vance.example\nOla Berg,ola@berg.example\n';
  const bench = (
    await pell.call('POST /api/imports', { raw: rows, type: 'text/csv', query: { name: 'late.csv' } })
  ).body;
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: bench.mapping, choices: {} },
  });
  await house.work();
  const nico = await pell.call('POST /api/people/find-or-create', {
    body: { fullName: 'Nico Vance', email: 'nico@vance.example' },
  });
  expect((await erase(nico.body.person!.id)).status).toBe(200);
  // The file of the import is gone with them, so it is not begun again from it.
  await pell.call('POST /api/imports/:id/start', { params: { id: bench.id } });
  await house.work();
  const [names] = await house.sequelize.query("SELECT full_name FROM people WHERE full_name LIKE 'Nico%'");
  expect(names).toEqual([]);
});

it('a message from them is taken in, and says that they were erased', async () => {
  const raw = mail({ from: `${NAME} <${EMAIL}>`, sign: NAME, subject: 'Hello again' });
  const { body } = await pell.call('POST /api/captures', { raw, type: 'message/rfc822' });
  expect(body.notices.join(' ')).toMatch(
    /Somebody with this address or number was erased on .* File this only if/,
  );
});
