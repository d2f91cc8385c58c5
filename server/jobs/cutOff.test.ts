import { QueryTypes } from 'sequelize';
import { breakConnections, CUT, spread, workUntil, type Breaker } from '../testing/faults';
import { agree } from '../testing/agreeing';
import { mail, useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();
let breaker: Breaker;
beforeAll(() => {
  breaker = breakConnections();
  house.expectFailure(CUT);
});
afterAll(() => breaker.restore());

const rows = <Row extends object>(sql: string, replacements: Record<string, unknown> = {}): Promise<Row[]> =>
  house.sequelize.query<Row>(sql, { replacements, type: QueryTypes.SELECT });
const waiting = async (): Promise<number> =>
  (await rows<{ n: number }>('SELECT count(*)::int AS n FROM graphile_worker.jobs'))[0]?.n ?? -1;
const isIdle = async (): Promise<boolean> => (await waiting()) === 0;

let serial = 0;
const key = (): string => `cut-${++serial}`;

describe('a request whose connection breaks', () => {
  it('says that the database went away, keeps all of it or nothing, and its retry does it once', async () => {
    const add = (email: string, as: string) =>
      pell.call('POST /api/people', {
        body: { fullName: 'Cut Short', email, companyName: `Firm of ${email}` },
        headers: { 'idempotency-key': as },
      });
    breaker.arm(Infinity);
    expect((await add('whole@cut.example', key())).status).toBe(201);
    const statements = breaker.counted();
    expect(statements).toBeGreaterThan(8);
    const seen = new Set<number>();
    for (const at of spread(statements, statements)) {
      const email = `at${at}@cut.example`;
      const as = key();
      breaker.arm(at);
      const cut = await add(email, as);
      breaker.arm(Infinity);
      seen.add(cut.status);
      const people = await rows<{ people: number; events: number }>(
        `SELECT count(DISTINCT k.person_id)::int AS people,
                (SELECT count(*) FROM events e WHERE e.changes @> jsonb_build_array(jsonb_build_object('table', 'contact_points', 'after', jsonb_build_object('normalized', :email::text))))::int AS events
           FROM contact_points k WHERE k.normalized = :email`,
        { email },
      );
      expect([at, people[0]?.people === people[0]?.events]).toEqual([at, true]);
      const again = await add(email, as);
      expect([at, again.status]).toEqual([at, 201]);
      expect([
        at,
        await rows(
          'SELECT count(*)::int AS n FROM contact_points k JOIN people p ON p.id = k.person_id WHERE k.normalized = :email',
          { email },
        ),
      ]).toEqual([at, [{ n: 1 }]]);
    }
    expect([...seen].sort()).toEqual(expect.arrayContaining([503]));
    expect([...seen].filter((status) => status !== 503 && status !== 201)).toEqual([]);
  });

  it('files a mail with all that belongs to it, or not at all', async () => {
    const file = async (at: number, as: string) => {
      const { body } = await pell.call('POST /api/captures', {
        raw: mail({
          from: `Ann Reed <ann${serial}@reed-${serial}.example>`,
          sign: `Ann Reed\nReed ${serial} Ltd`,
        }),
      });
      const send = () =>
        pell.call('POST /api/captures/:id/filing', {
          params: { id: body.id },
          body: { person: 'new' },
          headers: { 'idempotency-key': as },
        });
      breaker.arm(at);
      const answer = await send();
      const counted = breaker.counted();
      breaker.arm(Infinity);
      return { id: body.id, answer, send, counted };
    };
    const { counted } = await file(Infinity, key());
    for (const at of spread(counted, 9)) {
      const { id, answer, send } = await file(at, key());
      const state = () =>
        rows<{ state: string; claims: number; entries: number }>(
          `SELECT state, (SELECT count(*) FROM claims WHERE capture_id = c.id AND person_id IS NOT NULL)::int AS claims,
                  (SELECT count(*) FROM ledger_entries WHERE capture_id = c.id)::int AS entries
             FROM captures c WHERE id = :id`,
          { id },
        );
      const [left] = await state();
      if (left?.state !== 'filed') expect([at, left?.claims, left?.entries]).toEqual([at, 0, 0]);
      expect([201, 503]).toContain(answer.status);
      expect([at, (await send()).status]).toEqual([at, 201]);
      expect([at, (await state())[0]]).toMatchObject([at, { state: 'filed', entries: 1 }]);
    }
  });
});

describe('what follows a change', () => {
  it('is done in the end, and once, whichever statement of it is cut', async () => {
    const arrive = async () => {
      const at = ++serial;
      const { body } = await pell.call('POST /api/captures', {
        raw: mail({ from: `Bo Lund <bo${at}@lund-${at}.example>`, sign: `Bo Lund\nLund ${at} AB` }),
      });
      const filed = await pell.call('POST /api/captures/:id/filing', {
        params: { id: body.id },
        body: { person: 'new', lead: 'new' },
      });
      return filed.body.lead?.id ?? '';
    };
    const scored = (leadId: string) =>
      rows<{ n: number }>('SELECT count(*)::int AS n FROM lead_scores WHERE lead_id = :leadId', { leadId });
    const first = await arrive();
    breaker.arm(Infinity);
    await house.work();
    const statements = breaker.counted();
    expect(await scored(first)).toEqual([{ n: 1 }]);
    for (const at of spread(statements, 8)) {
      const leadId = await arrive();
      breaker.arm(at);
      await workUntil(house, breaker, isIdle);
      expect([at, await scored(leadId)]).toEqual([at, [{ n: 1 }]]);
    }
  });
});

describe('what goes outside', () => {
  const sentTo = (email: string): number => house.mails.filter(({ to }) => to === email).length;

  it('goes out once at most, and where nobody can tell, it says so', async () => {
    const delivery = await agree(house, { pell, mara }, 'whole@lot.example');
    breaker.arm(Infinity);
    await house.work();
    const statements = breaker.counted();
    expect([(await delivery())?.state, sentTo('whole@lot.example')]).toEqual(['sent', 1]);
    const ends: [number, string | null, number][] = [];
    for (const at of spread(statements, statements)) {
      const email = `at${at}@lot.example`;
      const of = await agree(house, { pell, mara }, email);
      breaker.arm(at);
      await workUntil(house, breaker, isIdle);
      ends.push([at, (await of())?.state ?? null, sentTo(email)]);
    }
    const wrong = ends.filter(
      ([, ended, mails]) => !(ended === 'sent' && mails === 1) && !(ended === 'unsure' && mails <= 1),
    );
    expect(wrong).toEqual([]);
    expect(ends.filter(([, ended]) => ended === 'sent').length).toBeGreaterThan(0);
    expect(ends.filter(([, ended]) => ended === 'unsure').length).toBeGreaterThan(0);
  });
});
