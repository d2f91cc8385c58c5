import { execFileSync } from 'node:child_process';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

/** Reads a card as another program does and writes it anew: Debian's python3-vobject. */
const throughVobject = (card: string): string =>
  execFileSync(
    '/usr/bin/python3',
    [
      '-c',
      'import sys, vobject; sys.stdout.write(vobject.readOne(sys.stdin.read()).serialize(validate=False))',
    ],
    { input: card, encoding: 'utf8' },
  );

const CARD = [
  'BEGIN:VCARD',
  'VERSION:3.0',
  'FN:Ines Duarte',
  'N:Duarte;Ines;;Dr.;',
  'TITLE:Head of Purchasing',
  'ORG:Padaria Sol;Purchasing',
  'EMAIL;TYPE=WORK:ines@padariasol.example',
  'EMAIL;TYPE=HOME:ines.duarte@mail.example',
  'TEL;TYPE=CELL:+351910555014',
  'TEL;TYPE=WORK:+351220555010',
  'ADR;TYPE=HOME:;Floor 2;1 Quay;Porto;Norte;4050-123;Portugal',
  'URL:https://padariasol.example',
  'BDAY:1985-04-12',
  'TZ:Europe/Lisbon',
  'CATEGORIES:fair,key account',
  'NOTE:Half a day on Fridays',
  'END:VCARD',
  '',
].join('\r\n');

/** All that we hold of somebody, without the ids and times that differ from one record to the next. */
async function held(id: string): Promise<unknown> {
  const [rows] = await house.sequelize.query(
    `SELECT full_name, given_name, family_name, name_prefix, department, job_title, address, address_type, address_parts, birthday, time_zone, background, tags,
            (SELECT name FROM companies c WHERE c.id = p.company_id) AS company,
            (SELECT jsonb_agg(jsonb_build_array(kind, normalized, type) ORDER BY kind, normalized) FROM contact_points k WHERE k.person_id = p.id) AS contacts
       FROM people p WHERE id = :id`,
    { replacements: { id } },
  );
  return rows[0];
}

const cardOf = async (id: string): Promise<string> => {
  const { body } = await pell.call('POST /api/tokens', { body: { name: 'card' } });
  const response = await house.app.inject({
    url: `/api/people/${id}/card`,
    headers: { authorization: `Bearer ${body.token}` },
  });
  expect(response.statusCode).toBe(200);
  return response.body;
};

async function file(card: string): Promise<string> {
  const { body } = await pell.call('POST /api/captures', { raw: card, type: 'text/vcard' });
  const filed = await pell.call('POST /api/captures/:id/filing', {
    params: { id: body.id },
    body: { person: 'new' },
  });
  expect(filed.status).toBe(201);
  return filed.body.person.id;
}

/** Makes everybody so far unrecognisable, so that the same card comes in once more as somebody new. */
async function disguiseEverybody(): Promise<void> {
  await house.sequelize.query('UPDATE contact_points SET normalized = id::text');
  await house.sequelize.query("UPDATE people SET name_key = 'gone', full_name = 'Gone Before'");
}

it('a card keeps all we hold through another program: out, through python3-vobject, and in again', async () => {
  const first = await file(CARD);
  const before = await held(first);
  expect(before).toMatchObject({
    name_prefix: 'Dr.',
    department: 'Purchasing',
    address_type: 'home',
    address_parts: ['', 'Floor 2', '1 Quay', 'Porto', 'Norte', '4050-123', 'Portugal'],
    tags: ['fair', 'key account'],
    contacts: expect.arrayContaining([
      ['email', 'ines.duarte@mail.example', 'home'],
      ['email', 'ines@padariasol.example', 'work'],
      ['phone', '+351910555014', 'mobile'],
    ]),
  });
  const card = throughVobject(await cardOf(first));
  await disguiseEverybody();
  const second = await file(card);
  expect(await held(second)).toEqual(before);
});

it('the import of cards keeps the same', async () => {
  const [known] = (await pell.call('GET /api/people', { query: { q: 'Ines Duarte' } })).body.items;
  const before = await held(known?.id ?? '');
  const card = throughVobject(await cardOf(known?.id ?? ''));
  await disguiseEverybody();
  const { body } = await pell.call('POST /api/imports', {
    raw: card,
    type: 'text/vcard',
    query: { name: 'one.vcf' },
  });
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: body.id },
    body: { version: body.version, mapping: { columns: [], hasHead: false } },
  });
  await house.work();
  const started = await pell.call('POST /api/imports/:id/start', { params: { id: body.id } });
  expect(started.status).toBe(200);
  await house.work();
  const { body: done } = await pell.call('GET /api/imports/:id', { params: { id: body.id } });
  expect(done).toMatchObject({ state: 'done', counts: { made: 1 } });
  const [made] = (await pell.call('GET /api/people', { query: { q: 'Ines Duarte' } })).body.items;
  expect(await held(made?.id ?? '')).toEqual(before);
});
