import { generateSync } from 'otplib';
import { PASSWORD, type Client, useHouse } from '../testing/harness';
import { addColleague } from '../testing/roleHolders';
import { stepOf } from './totp';

const { house, pell, mara } = useHouse();
const PELL = 'pell@wharfside.example';
const HALF_MINUTE = 30_000;

/** The house's clock, moved by hand: a code is of its half minute. */
let at = Date.parse('2026-11-26T10:00:00Z');
beforeAll(() => void (house.tools.now = () => new Date(at)));
const codeOf = (secret: string): string => generateSync({ secret, epoch: at / 1000 });
const wrong = (code: string): string => code.replace(/./g, (digit) => String((Number(digit) + 5) % 10));

const signIn = async (code?: string, password = PASSWORD) => {
  const { status, body } = await house.anonymous.call('POST /api/session', {
    body: { email: PELL, password, ...(code === undefined ? {} : { code }) },
  });
  return [status, String(body.type ?? body.name).replace('urn:emporikon:problem:', '')];
};

async function turnOn(who: Client): Promise<{ secret: string; codes: string[] }> {
  const begun = await who.call('PUT /api/session/second-step/secret', { body: { password: PASSWORD } });
  expect(begun.status).toBe(200);
  const { secret } = begun.body;
  const done = await who.call('PUT /api/session/second-step', { body: { code: codeOf(secret) } });
  expect(done.status).toBe(200);
  at += HALF_MINUTE;
  return { secret, codes: done.body.codes };
}
afterEach(async () => {
  at += 60 * 60_000;
  await house.sequelize.query('DELETE FROM second_factors; DELETE FROM recovery_codes');
  // Turning it on ends the other sessions of the account.
  Object.assign(pell, await house.as(PELL));
});

it.each([
  // RFC 6238, appendix B, SHA-1: the last six of its eight digits.
  [59, '287082'],
  [1_111_111_109, '081804'],
  [1_111_111_111, '050471'],
  [1_234_567_890, '005924'],
  [2_000_000_000, '279037'],
  [20_000_000_000, '353130'],
])('the code of second %d is that of RFC 6238', (seconds, code) => {
  // "12345678901234567890" in base32.
  const secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
  const now = new Date(seconds * 1000);
  const step = Math.floor(seconds / 30);
  expect(stepOf(secret, code, now)).toBe(step);
  expect(stepOf(secret, ` ${code.slice(0, 3)} ${code.slice(3)}`, now)).toBe(step);
  expect(stepOf(secret, wrong(code), now)).toBeNull();
  // A step early or late is taken, two are not; and none twice.
  expect(stepOf(secret, code, new Date((step + 2) * HALF_MINUTE - 1000))).toBe(step);
  expect(stepOf(secret, code, new Date((step + 3) * HALF_MINUTE))).toBeNull();
  expect(stepOf(secret, code, now, step)).toBeNull();
});

it('nothing is asked for until a code was given; then the password alone lets nobody in', async () => {
  const begun = await pell.call('PUT /api/session/second-step/secret', { body: { password: PASSWORD } });
  expect(begun.body.uri).toMatch(
    /^otpauth:\/\/totp\/Emporikon:pell%40wharfside\.example\?secret=[A-Z2-7]{32}/,
  );
  expect(await signIn()).toEqual([200, 'Pell Garrick']);
  const refused = await pell.call('PUT /api/session/second-step', {
    body: { code: wrong(codeOf(begun.body.secret)) },
  });
  expect([refused.status, refused.body.fields]).toEqual([422, { code: 'is wrong' }]);
  const other = await house.as(PELL);
  const { secret } = await turnOn(pell);
  // Whoever was signed in elsewhere is not any more; who turned it on is.
  expect((await other.call('GET /api/session')).status).toBe(401);
  expect((await pell.call('GET /api/session/second-step')).body).toMatchObject({
    since: expect.stringMatching(/^2026-11-26T/),
    codesLeft: 10,
    isPossible: true,
  });
  expect(await signIn()).toEqual([401, 'code-wanted']);
  expect(await signIn('')).toEqual([401, 'code-wanted']);
  expect(await signIn(wrong(codeOf(secret)))).toEqual([401, 'wrong-code']);
  expect(await signIn(codeOf(secret), 'a wrong password')).toEqual([401, 'wrong-sign-in']);
  expect(await signIn(codeOf(secret))).toEqual([200, 'Pell Garrick']);
  // The others sign in as before.
  expect((await mara.call('GET /api/session/second-step')).body.since).toBeNull();
});

it('a code signs in once, two at one moment not excepted', async () => {
  const { secret } = await turnOn(pell);
  const both = await Promise.all([signIn(codeOf(secret)), signIn(codeOf(secret))]);
  expect(both.map(([status]) => status).sort()).toEqual([200, 401]);
  expect(await signIn(codeOf(secret))).toEqual([401, 'wrong-code']);
  at += HALF_MINUTE;
  expect((await signIn(codeOf(secret)))[0]).toBe(200);
});

it('a recovery code signs in once, however it is typed; new ones end the old', async () => {
  const { secret, codes } = await turnOn(pell);
  const [first = '', second = '', third = ''] = codes;
  expect(new Set(codes).size).toBe(10);
  for (const code of codes) expect(code).toMatch(/^[a-z2-9]{6}-[a-z2-9]{6}$/);
  expect((await signIn(first.toUpperCase().replace('-', ' ')))[0]).toBe(200);
  expect(await signIn(first)).toEqual([401, 'wrong-code']);
  const both = await Promise.all([signIn(second), signIn(second)]);
  expect(both.map(([status]) => status).sort()).toEqual([200, 401]);
  expect((await pell.call('GET /api/session/second-step')).body.codesLeft).toBe(8);
  const fresh = await pell.call('PUT /api/session/second-step/recovery-codes', {
    body: { password: PASSWORD, code: codeOf(secret) },
  });
  expect(fresh.body.codes).toHaveLength(10);
  expect(await signIn(third)).toEqual([401, 'wrong-code']);
  expect((await signIn(fresh.body.codes[0]))[0]).toBe(200);
  const { body } = await pell.call('GET /api/sign-ins');
  expect(body.items.map(({ what }) => what)).toEqual(
    expect.arrayContaining(['recovery code used', 'code refused', 'second step on']),
  );
});

it('guessing codes stops after ten, many at once as well, and only for who knows the password', async () => {
  const { secret } = await turnOn(pell);
  const tries = await Promise.all(Array.from({ length: 25 }, () => signIn(wrong(codeOf(secret)))));
  // Those that are counted at the same moment may stop each other; more than ten never pass.
  expect(tries.filter(([status]) => status !== 429).length).toBeLessThanOrEqual(10);
  at += 16 * 60_000;
  for (let tries = 1; tries <= 10; tries++) expect(await signIn('000000x')).toEqual([401, 'wrong-code']);
  expect((await signIn(codeOf(secret)))[0]).toBe(429);
  at += 16 * 60_000;
  expect((await signIn(codeOf(secret)))[0]).toBe(200);
});

it('it is turned off with password and code, and by an admin for somebody who lost both', async () => {
  const { secret } = await turnOn(pell);
  const off = (body: object) => pell.call('DELETE /api/session/second-step', { body });
  expect((await off({ password: 'a wrong one', code: codeOf(secret) })).body.fields).toEqual({
    password: 'is wrong',
  });
  expect((await off({ password: PASSWORD, code: wrong(codeOf(secret)) })).body.fields).toEqual({
    code: 'is wrong',
  });
  expect((await off({ password: PASSWORD, code: codeOf(secret) })).body).toMatchObject({
    since: null,
    codesLeft: 0,
  });
  expect((await signIn())[0]).toBe(200);
  expect((await off({ password: PASSWORD, code: '123456' })).status).toBe(409);

  at += HALF_MINUTE;
  await turnOn(pell);
  const { id } = (await pell.call('GET /api/session')).body;
  const byAdmin = (who: Client) => who.call('DELETE /api/admin/users/:id/second-step', { params: { id } });
  expect((await byAdmin(pell)).status).toBe(403);
  await house.sequelize.query("UPDATE users SET role = 'admin' WHERE email LIKE 'mara%'");
  const admin = await house.as('mara@wharfside.example');
  const coded = async () =>
    (await admin.call('GET /api/admin/users')).body.items.filter((one) => one.hasSecondStep).length;
  expect(await coded()).toBe(1);
  expect((await byAdmin(admin)).status).toBe(200);
  expect(await coded()).toBe(0);
  expect((await byAdmin(admin)).status).toBe(409);
  expect((await pell.call('GET /api/session')).status).toBe(401);
  expect((await signIn())[0]).toBe(200);
});

it('a secret under another key lets in by a recovery code only; without a key nothing is begun', async () => {
  const { secret, codes } = await turnOn(pell);
  const kept = house.tools.outside.sealKey;
  house.tools.outside.sealKey = 'another key';
  expect(await signIn(codeOf(secret))).toEqual([401, 'wrong-code']);
  expect((await signIn(codes[0]))[0]).toBe(200);
  house.tools.outside.sealKey = null;
  expect((await mara.call('GET /api/session/second-step')).body.isPossible).toBe(false);
  const begun = await mara.call('PUT /api/session/second-step/secret', { body: { password: PASSWORD } });
  expect(begun.status).toBe(409);
  house.tools.outside.sealKey = kept;
});

it('neither the secret nor a recovery code stands in the database', async () => {
  const { secret, codes } = await turnOn(pell);
  const [rows] = await house.sequelize.query(
    'SELECT sealed AS text FROM second_factors UNION ALL SELECT code_hash FROM recovery_codes UNION ALL SELECT body::text FROM idempotency_keys',
  );
  const kept = JSON.stringify(rows);
  expect(rows.length).toBeGreaterThanOrEqual(11);
  for (const shown of [secret, ...codes, ...codes.map((code) => code.replace('-', ''))])
    expect(kept).not.toContain(shown);
});

describe('where the organisation asks for it', () => {
  const rule = async (codes: 'by choice' | 'managers' | 'everybody') => {
    const joss = await house.as('joss@wharfside.example');
    const { version } = (await joss.call('GET /api/admin/sign-in-rules')).body;
    return joss.call('PATCH /api/admin/sign-in-rules', { body: { version, codes } });
  };
  const session = async (who: Client) => (await who.call('GET /api/session')).body;
  beforeAll(() => addColleague('joss', 'admin'));
  // An admin who has no code yet could not change it back.
  afterEach(() => house.sequelize.query("UPDATE sign_in_rules SET codes = 'by choice'"));

  it('a session without a code sets one up before anything else, and then goes on', async () => {
    const { body } = await pell.call('POST /api/tokens', { body: { name: 'script' } });
    expect((await rule('everybody')).status).toBe(200);
    expect(await session(pell)).toMatchObject({ mustAddCode: true });
    for (const refused of [
      await pell.call('GET /api/people'),
      await pell.call('POST /api/people', { body: { fullName: 'Nobody' } }),
      await pell.call('PUT /api/session/password', { body: { current: PASSWORD, next: `${PASSWORD} 2` } }),
      await pell.call('POST /api/tokens', { body: { name: 'a way round' } }),
    ])
      expect([refused.status, refused.body.type]).toEqual([403, 'urn:emporikon:problem:code-first']);
    // A script cannot type a code, and was let in before.
    const headers = { authorization: `Bearer ${body.token}` };
    expect((await house.app.inject({ url: '/api/people', headers })).statusCode).toBe(200);

    const { secret } = await turnOn(pell);
    expect(await session(pell)).toMatchObject({ mustAddCode: false });
    expect((await pell.call('GET /api/people')).status).toBe(200);
    const off = await pell.call('DELETE /api/session/second-step', {
      body: { password: PASSWORD, code: codeOf(secret) },
    });
    expect(off.status).toBe(409);
    expect((await pell.call('GET /api/session/second-step')).body).toMatchObject({
      isWanted: true,
      since: expect.any(String),
    });
  });

  it('managers alone, if so chosen, and nobody whom the provider lets in', async () => {
    await rule('managers');
    expect([(await session(pell)).mustAddCode, (await session(mara)).mustAddCode]).toEqual([false, true]);
    await house.sequelize.query('UPDATE sessions SET by_provider = true');
    expect((await mara.call('GET /api/people')).status).toBe(200);
    await house.sequelize.query('UPDATE sessions SET by_provider = false');
    expect((await mara.call('GET /api/people')).status).toBe(403);
  });

  it('is told at the sign-in itself, chosen by admins alone, and not without a key to seal with', async () => {
    expect((await pell.call('GET /api/admin/sign-in-rules')).status).toBe(403);
    await rule('everybody');
    const { body } = await house.anonymous.call('POST /api/session', {
      body: { email: PELL, password: PASSWORD },
    });
    expect(body.mustAddCode).toBe(true);
    await house.sequelize.query("UPDATE sign_in_rules SET codes = 'by choice'");
    const key = house.tools.outside.sealKey;
    Object.assign(house.tools.outside, { sealKey: null });
    const refused = await rule('everybody');
    Object.assign(house.tools.outside, { sealKey: key });
    expect(refused.status).toBe(409);
  });
});
