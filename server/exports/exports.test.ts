import { parseCsv } from '@emporikon/core/formats/csv';
import { readCalendar } from '@emporikon/core/formats/icalendar';
import { parseSheet } from '@emporikon/core/formats/sheet';
import { parseCards } from '@emporikon/core/formats/vcard';
import { breakConnections, CUT, spread, workUntil, type Breaker } from '../testing/faults';
import type { FeatureCollection, Point } from 'geojson';
import { useHouse } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
let breaker: Breaker;
beforeAll(() => {
  breaker = breakConnections();
  house.expectFailure(CUT);
});
afterAll(() => breaker.restore());

const filterOf = (tag: string) => ({ field: 'tags', op: 'hasAny', value: [tag] });
const queryOf = (tag: string, columns = ['fullName', 'jobTitle']) => ({
  kind: 'person',
  filter: filterOf(tag),
  columns,
});
const now = (format: string, query: object, more = '', by = pell) =>
  by.raw('GET', `/api/queries.${format}?query=${encodeURIComponent(JSON.stringify(query))}${more}`);
const make = async (query: object, format: string, by = pell, more: object = {}) =>
  by.call('POST /api/exports', { body: { query, format, ...more } });
const get = async (id: string, by = pell) => (await by.call('GET /api/exports/:id', { params: { id } })).body;
const file = (id: string, by = pell) => by.raw('GET', `/api/exports/${id}/file`);
/** So many that they are read in several parts. */
async function many(tag: string, count: number): Promise<void> {
  await house.sequelize.query(
    `INSERT INTO people (id, full_name, given_name, family_name, name_key, standing, tags, owner_id, created_at, updated_at)
     SELECT gen_random_uuid(), 'Row ' || lpad(n::text, 6, '0'), '', '', 'row ' || n, 'stranger', ARRAY[$tag], NULL, now(), now()
       FROM generate_series(1, ${count}) n`,
    { bind: { tag } },
  );
}

describe('a file of what a view shows', () => {
  const people = async (): Promise<void> => {
    for (const [fullName, jobTitle] of [
      ['Ana Reis', '=1+1'],
      ['Bo Žižka', 'Buyer; "fleet", two'],
    ])
      await pell.call('POST /api/people', {
        body: {
          fullName,
          jobTitle,
          tags: ['handed'],
          email: `${fullName?.slice(0, 2).toLowerCase()}@bakery.example`,
        },
      });
  };
  beforeAll(people);

  // RFC 4180 for the quotes; a formula is made text, as OWASP's page on CSV injection says.
  it('is a table', async () => {
    const { text } = await now('csv', queryOf('handed'));
    expect(text.startsWith('\ufeff')).toBe(true);
    const { rows } = parseCsv(text);
    expect(rows).toEqual([
      ['Name', 'Job title'],
      ['Ana Reis', "'=1+1"],
      ['Bo Žižka', 'Buyer; "fleet", two'],
    ]);
  });
  it('is a workbook with numbers as numbers, read by another package', async () => {
    const { id: companyId } = (await pell.call('POST /api/companies', { body: { name: 'Handed Bakery' } }))
      .body.company;
    for (const [title, amountMinor] of [
      ['Handed one', 123_450],
      ['Handed two', null],
    ])
      await pell.call('POST /api/deals', {
        body: { title, companyId, amountMinor, currency: 'EUR' } as never,
      });
    const query = {
      kind: 'deal',
      filter: { field: 'title', op: 'startsWith', value: 'Handed' },
      columns: ['title', 'amountMinor'],
    };
    const { body } = await make(query, 'xlsx');
    await house.work();
    const { size } = await get(body.id);
    const { bytes } = await file(body.id);
    expect(bytes).toHaveLength(size);
    // As text it would be 1234.50.
    expect((await parseSheet(bytes)).rows).toEqual([
      ['Title', 'Value (EUR)'],
      ['Handed one', '1234.5'],
      ['Handed two', ''],
    ]);
    expect((await parseSheet((await now('xlsx', query)).bytes)).rows).toHaveLength(3);
  });
  it('is contact cards of people, and of nothing else', async () => {
    const { text } = await now('vcf', queryOf('handed'));
    const { cards, unreadable } = parseCards(Buffer.from(text));
    const valueOf = (at: number, name: string) =>
      cards[at]?.properties.find((one) => one.name === name)?.value;
    expect(unreadable).toBe(0);
    expect([valueOf(0, 'fn'), valueOf(1, 'fn'), valueOf(1, 'email')]).toEqual([
      'Ana Reis',
      'Bo Žižka',
      'bo@bakery.example',
    ]);
    expect((await now('vcf', { kind: 'company' })).status).toBe(422);
  });
  it('is a calendar by the date that is asked for', async () => {
    const { text } = await now('ics', queryOf('handed'), '&dateField=createdAt');
    expect(readCalendar(text)?.events.map(({ title }) => title)).toEqual([
      'Ana Reis (added)',
      'Bo Žižka (added)',
    ]);
    expect((await now('ics', queryOf('handed'), '&dateField=jobTitle')).status).toBe(422);
  });
  // RFC 7946; an independent check of the shape stands in the definitions of @types/geojson, by which this compiles.
  it('is a map, with what has no place without geometry', async () => {
    await house.sequelize.query(
      `INSERT INTO places (record_id, kind, lon, lat, precision, town, country)
       SELECT id, 'person', -9.14, 38.72, 'town', 'Lisbon', 'PT' FROM people WHERE full_name = 'Ana Reis'`,
    );
    const { text, status } = await now('geojson', queryOf('handed'));
    const read = JSON.parse(text) as FeatureCollection<Point | null>;
    expect([status, read.type]).toEqual([200, 'FeatureCollection']);
    expect(read.features.map(({ geometry, properties }) => [geometry, properties?.Name])).toEqual([
      [{ type: 'Point', coordinates: [-9.14, 38.72] }, 'Ana Reis'],
      [null, 'Bo Žižka'],
    ]);
    expect((await now('geojson', { kind: 'task' })).status).toBe(422);
    const { body } = await make(queryOf('handed'), 'geojson');
    await house.work();
    expect(JSON.parse((await file(body.id)).text)).toEqual(read);
    const none = JSON.parse((await now('geojson', queryOf('nobody'))).text) as FeatureCollection;
    expect(none.features).toEqual([]);
  });
  it('is a line of JSON for each', async () => {
    const { text } = await now('jsonl', queryOf('handed'));
    const lines = text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as object);
    expect(lines).toEqual([
      { id: expect.any(String), fullName: 'Ana Reis', jobTitle: '=1+1' },
      { id: expect.any(String), fullName: 'Bo Žižka', jobTitle: 'Buyer; "fleet", two' },
    ]);
  });
});

describe('in the background', () => {
  const COUNT = 3300;
  it('each record is in the file once, whichever statement is cut', async () => {
    await many('cut', COUNT);
    const begin = async (at: number): Promise<string> => {
      const { status, body } = await make(queryOf('cut'), 'csv');
      expect([status, body.state, body.total]).toEqual([201, 'running', COUNT]);
      breaker.arm(at);
      return body.id;
    };
    const whole = await begin(Infinity);
    await house.work();
    const statements = breaker.counted();
    const { text } = await file(whole);
    const rows = parseCsv(text).rows.slice(1);
    expect(new Set(rows.map(([name]) => name)).size).toBe(COUNT);
    expect(rows).toHaveLength(COUNT);
    for (const at of spread(statements, 4)) {
      const again = await begin(at);
      await workUntil(house, breaker, async () => (await get(again)).state === 'done');
      expect([at, (await file(again)).text === text]).toEqual([at, true]);
      await pell.call('DELETE /api/exports/:id', { params: { id: again } });
    }
  }, 120_000);

  it('holds what its reader sees, and is nobody else’s', async () => {
    await pell.call('POST /api/people', { body: { fullName: 'Sam Shared', tags: ['seen'] } });
    const hidden = (await pell.call('POST /api/people', { body: { fullName: 'Hal Hidden', tags: ['seen'] } }))
      .body.person;
    await house.sequelize.query(`UPDATE people SET visibility = 'owner' WHERE id = '${hidden.id}'`);
    const { body } = await make(queryOf('seen'), 'csv', ines);
    expect(body.total).toBe(1);
    await house.work();
    expect((await file(body.id, ines)).text).toContain('Sam Shared');
    expect((await file(body.id, ines)).text).not.toContain('Hidden');
    for (const other of [pell, mara]) {
      expect((await file(body.id, other)).status).toBe(404);
      expect((await other.call('GET /api/exports/:id', { params: { id: body.id } })).status).toBe(404);
      expect((await other.call('DELETE /api/exports/:id', { params: { id: body.id } })).status).toBe(404);
      expect((await other.call('GET /api/exports', {})).body.items.map(({ id }) => id)).not.toContain(
        body.id,
      );
    }
    // What was handed over is said in the history.
    const [events] = await house.sequelize.query(
      "SELECT label FROM events WHERE command = 'export records' AND label LIKE '%1 person:%'",
    );
    expect(events).toEqual([{ label: 'Exported 1 person: Table (CSV)' }]);
  });

  it('is not there before it is done, and keeps the values of a field that is retired meanwhile', async () => {
    const { field } = (await mara.call('POST /api/fields', { body: { label: 'Ovens', kind: 'number' } }))
      .body;
    const { person } = (
      await pell.call('POST /api/people', { body: { fullName: 'Otto Oven', tags: ['retired'] } })
    ).body;
    const params = { id: person.id };
    const { version } = (await pell.call('GET /api/people/:id', { params })).body;
    const filled = await pell.call('PATCH /api/people/:id', {
      params,
      body: { version, custom: { ovens: '7' } },
    });
    expect(filled.status).toBe(200);
    const { body } = await make(queryOf('retired', ['fullName', 'custom.ovens']), 'csv');
    expect((await file(body.id)).status).toBe(409);
    await mara.call('PATCH /api/fields/:id', {
      params: { id: field.id },
      body: { version: field.version, active: false },
    });
    await house.work();
    expect(parseCsv((await file(body.id)).text).rows).toEqual([
      ['Name', 'Ovens'],
      ['Otto Oven', '7'],
    ]);
    expect((await make(queryOf('seen', ['nothing']), 'csv')).status).toBe(422);
  });

  it('is stopped by whoever asked for it, three at a time, and kept for a day', async () => {
    const asked = [];
    for (let at = 0; at < 4; at++) asked.push(await make(queryOf('cut'), 'jsonl', mara));
    expect(asked.map(({ status }) => status)).toEqual([201, 201, 201, 409]);
    const ids = asked.slice(0, 3).map(({ body }) => body.id);
    for (const id of ids.slice(0, 2)) await mara.call('DELETE /api/exports/:id', { params: { id } });
    await house.work();
    expect((await get(ids[2] ?? '', mara)).state).toBe('done');
    expect(await house.count("exports WHERE owner_id = (SELECT id FROM users WHERE name LIKE 'Mara%')")).toBe(
      1,
    );
    await house.sequelize.query("UPDATE exports SET created_at = created_at - interval '25 hours'");
    await house.sequelize.query("SELECT queue_job('tidyExports', '{}', null, 1, now())");
    await house.work();
    expect([await house.count('exports'), await house.count('export_parts')]).toEqual([0, 0]);
  });
});
