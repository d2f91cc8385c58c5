import pg from 'pg';
import { createTransport } from 'nodemailer';
import { MIGRATIONS, migrate } from './db/migrate';
import { mail, openHouse, databaseUrl, type Client, type House } from './testing/harness';
import { signInTo, startServer, type Running } from './testing/process';

let house: House;
let pell: Client;
const running: Running[] = [];
const server = async (): Promise<Running> => {
  const one = await startServer();
  running.push(one);
  return one;
};
beforeAll(async () => {
  house = await openHouse();
  pell = await house.as('pell@wharfside.example');
});
afterAll(async () => {
  await Promise.all(running.map((one) => one.kill('SIGTERM')));
  await house.close();
});

const TABLES = [
  'people',
  'companies',
  'leads',
  'deals',
  'contact_points',
  'ledger_entries',
  'ledger_links',
  'deal_roles',
  'events',
  'idempotency_keys',
];
const counts = async () =>
  Object.fromEntries(await Promise.all(TABLES.map(async (table) => [table, await house.count(table)])));

/**
 * Holds a table that a command writes late against writes, lets the command run into it, and kills the server there: the person, the
 * company and more are written by then, and nothing is committed.
 */
async function killInside(table: string, path: string, body: object): Promise<void> {
  const one = await server();
  const cookie = await signInTo(one.url, 'pell@wharfside.example');
  const holder = new pg.Client({ connectionString: databaseUrl() });
  await holder.connect();
  await holder.query(`BEGIN; LOCK TABLE ${table} IN SHARE MODE`);
  const sent = fetch(one.url + path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie, 'idempotency-key': path },
    body: JSON.stringify(body),
  }).then(
    () => 'answered',
    () => 'cut off',
  );
  try {
    await comesToInsert(table);
    await one.kill('SIGKILL');
    expect(await sent).toBe('cut off');
  } finally {
    await holder.query('ROLLBACK');
    await holder.end();
  }
}

async function comesToInsert(table: string): Promise<void> {
  // Asked outside the holder's transaction, which sees one snapshot of the statistics throughout.
  for (let tries = 0; ; tries++) {
    const [rows] = await house.sequelize.query(
      `SELECT 1 FROM pg_stat_activity WHERE wait_event_type = 'Lock' AND query LIKE 'INSERT INTO "${table}"%'`,
    );
    if (rows.length) return;
    if (tries > 100) throw new Error('the command never came to the table');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

it('a server killed in the middle of filing leaves nothing half-made, and the retry files', async () => {
  const { body } = await pell.call('POST /api/captures', { raw: mail() });
  const before = await counts();
  await killInside('ledger_entries', `/api/captures/${body.id}/filing`, {});
  expect(await counts()).toEqual(before);
  const again = await pell.call('POST /api/captures/:id/filing', {
    params: { id: body.id },
    body: {},
    headers: { 'idempotency-key': `/api/captures/${body.id}/filing` },
  });
  expect(again.status).toBe(201);
});

it('a server killed in the middle of conversion leaves nothing half-made, and the retry converts', async () => {
  const { body } = await pell.call('POST /api/captures', {
    raw: mail({ from: 'Yusuf Demirel <y@kuriernord.example>', sign: 'Yusuf Demirel\nKurier Nord GmbH' }),
  });
  const { lead } = (await pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: {} }))
    .body;
  const before = await counts();
  await killInside('deal_roles', `/api/leads/${lead?.id ?? ''}/conversion`, {});
  expect(await counts()).toEqual(before);
  const id = lead?.id ?? '';
  const retry = () =>
    pell.call('POST /api/leads/:id/conversion', {
      params: { id },
      body: {},
      headers: { 'idempotency-key': `/api/leads/${id}/conversion` },
    });
  const deals = await house.count('deals');
  const [converted, again] = [await retry(), await retry()];
  expect([converted.status, again.headers['idempotent-replay']]).toEqual([201, 'true']);
  expect(again.body.deal.id).toBe(converted.body.deal.id);
  expect(await house.count('deals')).toBe(deals + 1);
  const { body: now } = await pell.call('GET /api/leads/:id', { params: { id } });
  expect(now.status).toBe('converted');
  const { body: deal } = await pell.call('GET /api/deals/:id', { params: { id: converted.body.deal.id } });
  expect([deal.company?.name, deal.people.map(({ name }) => name)]).toEqual([
    'Kurier Nord GmbH',
    ['Yusuf Demirel'],
  ]);
});

it('two server processes on one database both tell their browsers', async () => {
  const [one, two] = [await server(), await server()];
  const listen = async ({ url }: Running) => {
    const response = await fetch(`${url}/api/events`, {
      headers: { cookie: await signInTo(url, 'ines@wharfside.example') },
    });
    const reader = response.body?.getReader();
    let text = '';
    return async (wanted: string): Promise<boolean> => {
      const until = Date.now() + 2000;
      while (!text.includes(wanted) && Date.now() < until)
        text += new TextDecoder().decode(
          (
            await Promise.race([
              reader?.read(),
              new Promise<undefined>((resolve) => setTimeout(resolve, 2000)),
            ])
          )?.value,
        );
      void (text.includes(wanted) && reader?.cancel());
      return text.includes(wanted);
    };
  };
  const [first, second] = [await listen(one), await listen(two)];
  const cookie = await signInTo(one.url, 'pell@wharfside.example');
  await fetch(`${one.url}/api/people`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ fullName: 'Seen Everywhere' }),
  });
  expect(await Promise.all([first('add person'), second('add person')])).toEqual([true, true]);
});

it('mail that comes in by SMTP is captured before it is accepted', async () => {
  const one = await server();
  const transport = createTransport({
    host: '127.0.0.1',
    port: one.mailPort,
    secure: false,
    ignoreTLS: true,
  });
  const before = await house.count('captures');
  await transport.sendMail({
    envelope: { from: 'greta@solheim.example', to: 'arrivals@wharfside.example' },
    raw: mail({ from: 'Greta Solheim <greta@solheim.example>' }),
  });
  expect(await house.count('captures')).toBe(before + 1);
  await expect(
    transport.sendMail({
      envelope: { from: 'a@b.example', to: 'arrivals@wharfside.example' },
      raw: Buffer.alloc(21 * 1024 * 1024, 'a\n'),
    }),
  ).rejects.toThrow();
  transport.close();
});

it('migrations run once however many processes start them', async () => {
  await house.sequelize.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public;');
  const ran = await Promise.all([
    migrate(house.sequelize),
    migrate(house.sequelize),
    migrate(house.sequelize),
  ]);
  expect(ran.flat().sort()).toEqual(MIGRATIONS.map((one) => one.name));
});
