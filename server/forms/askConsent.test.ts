import { NotSent } from '../outside/notSent';
import { agree } from '../testing/agreeing';
import { useHouse, type SentMail } from '../testing/harness';

const mails: SentMail[] = [];
let trouble: Error | null = null;
const { house, pell, mara } = useHouse({
  post: {
    async send(message) {
      if (trouble) throw trouble;
      mails.push(message);
    },
    handOver: () => Promise.resolve([]),
  },
});

const agreed = (email: string) => agree(house, { pell, mara }, email);
const workAtOnce = async (): Promise<void> => {
  await house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
  await house.work();
};
const sentTo = (email: string): number => mails.filter(({ to }) => to === email).length;

it('waits for a mail server that is away, and mails once when it is back', async () => {
  trouble = new NotSent('the mail server does not answer');
  const delivery = await agreed('ann@reed.example');
  await house.work();
  await workAtOnce();
  expect(await delivery()).toMatchObject({
    state: 'waiting',
    tries: 2,
    trouble: 'the mail server does not answer',
  });
  trouble = null;
  await workAtOnce();
  await workAtOnce();
  expect([await delivery(), sentTo('ann@reed.example')]).toEqual([
    expect.objectContaining({ state: 'sent' }),
    1,
  ]);
});

it('does not mail again by itself what may have gone out, and does when somebody asks', async () => {
  trouble = new Error('the mail server did not say whether it took it');
  const delivery = await agreed('bob@reed.example');
  await house.work();
  trouble = null;
  await workAtOnce();
  expect([await delivery(), sentTo('bob@reed.example')]).toEqual([
    expect.objectContaining({ state: 'unsure' }),
    0,
  ]);
  const { id = '' } = (await delivery()) ?? {};
  expect((await pell.call('POST /api/outbox/:id/retry', { params: { id } })).status).toBe(200);
  await house.work();
  expect(sentTo('bob@reed.example')).toBe(1);
  expect((await pell.call('POST /api/outbox/:id/retry', { params: { id } })).body.detail).toBe(
    'This went out already.',
  );
});

it('does the part of a job that waited from before there was an outbox, once', async () => {
  await agreed('cas@reed.example');
  const [rows] = await house.sequelize.query(
    "DELETE FROM outbox WHERE payload->>'submissionId' IN (SELECT id::text FROM form_submissions WHERE email = 'cas@reed.example') RETURNING payload",
  );
  const { payload } = (rows as { payload: object }[])[0] ?? {};
  await house.sequelize.query('DELETE FROM graphile_worker._private_jobs');
  for (let times = 0; times < 2; times++)
    await house.sequelize.query("SELECT graphile_worker.add_job('askConsent', payload => :payload::json)", {
      replacements: { payload: JSON.stringify(payload) },
    });
  await workAtOnce();
  expect(sentTo('cas@reed.example')).toBe(1);
});
