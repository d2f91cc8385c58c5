import { consenting } from '../testing/consenting';
import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';
import { runInTransaction } from '../commands/context';
import { signLink } from './links';

const { house, pell, mara } = useHouse();
const { reachable: add } = lettering(house);
const { consentOf, statesOf, idOf, note, pathOf, post, open } = consenting(house);
let serial = 0;
const reachable = (name = 'Ana Reis'): Promise<string> => add(pell, name, `reader${++serial}@pages.example`);
const linkFor = async (
  personId: string,
  purposeId: string | null,
  topicId: string | null = null,
): Promise<string> =>
  `/u/${await runInTransaction(house.tools, null, (context) => signLink(context, { personId, purposeId, topicId }))}`;

describe('their own page', () => {
  it('is in their language, names their address no further than its domain, and is kept by nobody on the way', async () => {
    const path = await pathOf(pell, await reachable());
    const page = await open(path, 'pl, pt-PT;q=0.9, en;q=0.8');
    expect([page.statusCode, page.headers['cache-control'], page.headers['referrer-policy']]).toEqual([
      200,
      'no-store',
      'no-referrer',
    ]);
    expect(page.body).toContain('<html lang="pt">');
    expect(page.body).toContain('Enviem-me novidades de vez em quando.');
    expect(page.body).toContain('r…@pages.example');
    expect(page.body).not.toContain(`reader${serial}@`);
    expect((await open(`${path}?lang=de`, 'en')).body).toContain('Schicken Sie mir Angebote.');
    expect((await open(path, 'xx')).body).toContain('<html lang="en">');
  });

  it('keeps what they tick, with the sentence they were shown', async () => {
    const id = await reachable();
    const [path, news, offers] = [
      await pathOf(pell, id),
      await idOf(pell, 'News'),
      await idOf(pell, 'Offers'),
    ];
    const saved = await post(`${path}/choices`, { [`purpose-${news}`]: 'yes', lang: 'de' });
    expect([saved.statusCode, saved.body]).toEqual([200, expect.stringContaining('Gespeichert')]);
    expect(await statesOf(pell, id)).toEqual({ News: 'agreed' });
    expect((await consentOf(pell, id)).history).toMatchObject([
      { how: 'page', words: 'Schicken Sie mir ab und zu Neuigkeiten.', source: 'their page', by: null },
    ]);
    await post(`${path}/choices`, { [`purpose-${offers}`]: 'yes' });
    expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn', Offers: 'agreed' });
    // What they said themselves is not undone by somebody here.
    const [event] = (
      await house.sequelize.query(
        "SELECT id FROM events WHERE command = 'choose consent' ORDER BY at DESC LIMIT 1",
      )
    )[0] as { id: string }[];
    const undone = await mara.call('POST /api/events/:id/undo', { params: { id: event?.id ?? '' } });
    expect(undone.status).toBe(409);
  });

  it('saved again as it stands says nothing new', async () => {
    const id = await reachable();
    const [path, news] = [await pathOf(pell, id), await idOf(pell, 'News')];
    for (let again = 0; again < 3; again++)
      await post(`${path}/choices`, { [`purpose-${news}`]: 'yes', lang: 'en' });
    expect((await consentOf(pell, id)).history).toHaveLength(1);
  });

  it('takes topics with their places, and a purpose whose tick is gone takes its topics along', async () => {
    const id = await reachable();
    const service = await idOf(pell, 'Service');
    const area = await mara.call('POST /api/areas', {
      body: { name: 'Porto', corners: [-9, 41, -8, 41, -8, 42] },
    });
    const topic = await mara.call('POST /api/topics', {
      body: { purposeId: service, name: 'Workshop days', byArea: true },
    });
    const path = await pathOf(pell, id);
    const fields = {
      lang: 'en',
      [`topic-${topic.body.id}`]: 'yes',
      [`country-${topic.body.id}`]: 'PT',
      [`area-${topic.body.id}-${area.body.id}`]: 'yes',
    };
    const codes = `codes-${topic.body.id}`;
    const wrong = await post(`${path}/choices`, { ...fields, [codes]: '4000, <b>' });
    expect([wrong.statusCode, wrong.body]).toEqual([
      422,
      expect.stringContaining('&lt;B&gt; is not a post code'),
    ]);
    // What was filled in stands there still.
    expect(wrong.body).toContain('value="4000, &lt;b&gt;"');
    expect(wrong.body).toContain(`name="topic-${topic.body.id}" value="yes" checked`);
    expect(wrong.body).toContain(`name="area-${topic.body.id}-${area.body.id}" value="yes" checked`);
    expect(wrong.body).toContain('<option value="PT" selected>');
    expect(await statesOf(pell, id)).toEqual({});
    await post(`${path}/choices`, { ...fields, [codes]: '4000, 4100-21' });
    expect(await statesOf(pell, id)).toEqual({ Service: 'agreed', 'Workshop days': 'agreed' });
    const held = (await consentOf(pell, id)).purposes.flatMap(({ topics }) => topics);
    expect(held.find(({ name }) => name === 'Workshop days')?.places).toEqual({
      codes: [
        { country: 'PT', code: '4000' },
        { country: 'PT', code: '410021' },
      ],
      areas: [area.body.id],
    });
    await post(`${path}/choices`, { ...fields, [codes]: '4000' });
    expect(await statesOf(pell, id)).toEqual({ Service: 'withdrawn', 'Workshop days': 'withdrawn' });
  });

  it('is nobody’s without its signature, and empty once somebody was erased', async () => {
    const id = await reachable();
    const path = await pathOf(pell, id);
    const news = await idOf(pell, 'News');
    const tampered = [
      `${path.slice(0, -1)}${path.endsWith('A') ? 'B' : 'A'}`,
      `${path.slice(0, 6)}${path[6] === 'A' ? 'B' : 'A'}${path.slice(7)}`,
      `${path}=`,
      `/u/${'A'.repeat(44)}`,
      '/u/x',
    ];
    for (const one of tampered) {
      expect([one, (await open(one)).statusCode]).toEqual([one, 404]);
      expect((await post(`${one}/choices`, { [`purpose-${news}`]: 'yes' })).statusCode).toBe(404);
      expect((await post(one, { 'List-Unsubscribe': 'One-Click' })).statusCode).toBe(404);
    }
    expect(await statesOf(pell, id)).toEqual({});
    await mara.call('POST /api/people/:id/erasure', {
      params: { id },
      body: { confirm: 'Ana Reis', reason: 'asked' },
    });
    const left = await house.count(`people WHERE id = '${id}' AND erased_at IS NOT NULL`);
    expect([left, (await open(path)).statusCode]).toEqual([1, 410]);
    expect((await post(path, { 'List-Unsubscribe': 'One-Click' })).statusCode).toBe(200);
    expect(await house.count(`consents WHERE person_id = '${id}'`)).toBe(0);
  });

  it('leads to the record that theirs went into', async () => {
    const [first, second] = [await reachable('Zoe Lind'), await reachable('Zoe Lind')];
    const path = await pathOf(pell, first);
    await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: second, mergedIds: [first], choices: {} },
    });
    await post(`${path}/choices`, { [`purpose-${await idOf(pell, 'News')}`]: 'yes' });
    expect(await statesOf(pell, second)).toEqual({ News: 'agreed' });
  });
});

describe('one press in the mail program (RFC 8058)', () => {
  const agreed = async (): Promise<{ id: string; news: string; offers: string }> => {
    const [id, news, offers] = [await reachable(), await idOf(pell, 'News'), await idOf(pell, 'Offers')];
    for (const purposeId of [news, offers])
      await note(pell, id, { purposeId, state: 'agreed', words: 'by phone' });
    return { id, news, offers };
  };

  it('unsubscribes by either kind of form, without a cookie, and again without harm', async () => {
    for (const type of ['urlencoded', 'multipart']) {
      const { id, news } = await agreed();
      const url = await linkFor(id, news);
      const send = () =>
        type === 'urlencoded'
          ? post(url, { 'List-Unsubscribe': 'One-Click' })
          : house.app.inject({
              method: 'POST',
              url,
              headers: { 'content-type': 'multipart/form-data; boundary=---FormBoundaryjWmhtjORrn' },
              // The example of RFC 8058, 8.
              payload:
                '-----FormBoundaryjWmhtjORrn\r\nContent-Disposition: form-data; name="List-Unsubscribe"\r\n\r\nOne-Click\r\n-----FormBoundaryjWmhtjORrn--\r\n',
            });
      const done = await send();
      expect([type, done.statusCode, done.headers.location]).toEqual([type, 200, undefined]);
      expect((await send()).statusCode).toBe(200);
      expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn', Offers: 'agreed' });
      expect((await consentOf(pell, id)).history.filter(({ how }) => how === 'one-click')).toHaveLength(1);
    }
  });

  it('opening the link unsubscribes nobody; its button does', async () => {
    const { id, news } = await agreed();
    const url = await linkFor(id, news);
    const page = await open(url);
    expect([page.statusCode, page.body]).toEqual([
      200,
      expect.stringContaining('Unsubscribe r…@pages.example from News?'),
    ]);
    expect((await house.app.inject({ method: 'HEAD', url })).statusCode).toBeLessThan(500);
    expect((await post(url, {})).statusCode).toBe(200);
    expect(await statesOf(pell, id)).toMatchObject({ News: 'agreed' });
    const done = await post(`${url}/stop`, { lang: 'fr' });
    expect(done.body).toContain('Désinscription faite');
    expect(await statesOf(pell, id)).toEqual({ News: 'withdrawn', Offers: 'agreed' });
    await post(`${url}/stop`, { all: 'yes' });
    expect(await statesOf(pell, id)).toEqual({
      News: 'withdrawn',
      Offers: 'withdrawn',
      Service: 'withdrawn',
      'Opens and clicks': 'withdrawn',
    });
  });

  it('of a topic leaves the rest of its purpose', async () => {
    const { id, news } = await agreed();
    const topic = await mara.call('POST /api/topics', { body: { purposeId: news, name: 'New models' } });
    await note(pell, id, { purposeId: news, topicId: topic.body.id, state: 'agreed', words: 'by phone' });
    await post(await linkFor(id, news, topic.body.id), { 'List-Unsubscribe': 'One-Click' });
    expect(await statesOf(pell, id)).toMatchObject({ News: 'agreed', 'New models': 'withdrawn' });
  });
});

describe('the mail with their link', () => {
  it('asks in their language, and what they press there confirms', async () => {
    const { body } = await pell.call('POST /api/people', {
      body: { fullName: 'Inês Faro', email: 'ines@faro.example', phone: '+351 912 345 678' },
    });
    const [id, offers] = [body.person.id, await idOf(pell, 'Offers')];
    const asked = await pell.call('POST /api/people/:id/consent-mail', {
      params: { id },
      body: { purposeIds: [offers] },
    });
    expect(asked.status).toBe(201);
    expect(await statesOf(pell, id)).toEqual({ Offers: 'unconfirmed' });
    await house.work();
    const mail = house.mails.find(({ to }) => to === 'ines@faro.example');
    expect(mail?.subject).toBe('Escolha sobre o que lhe escrevemos');
    expect(mail?.text).toContain('Promoções');
    const path = /http:\/\/\S+(\/u\/\S+)/.exec(mail?.text ?? '')?.[1] ?? '';
    expect(mail?.headers).toEqual({
      'List-Unsubscribe': `<${house.tools.house.publicUrl}${path}>`,
      'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
    });
    expect((await open(path, 'pt')).body).toContain('Perguntámos se lhe podemos escrever sobre isto.');
    await post(`${path}/choices`, { [`purpose-${offers}`]: 'yes' });
    expect(await statesOf(pell, id)).toEqual({ Offers: 'agreed' });
  });

  it('goes nowhere without an address that works', async () => {
    const id = await reachable('No Way');
    await house.sequelize.query(`UPDATE contact_points SET reach = 'gone' WHERE person_id = '${id}'`);
    const asked = await pell.call('POST /api/people/:id/consent-mail', { params: { id }, body: {} });
    expect([asked.status, asked.body.detail]).toEqual([
      409,
      expect.stringContaining('no email address that works'),
    ]);
    const [address] = (await consentOf(pell, id)).addresses;
    const marked = await pell.call('PATCH /api/contacts/:id', {
      params: { id: address?.contactId ?? '' },
      body: { version: address?.version, reach: 'good' },
    });
    expect([marked.status, (await consentOf(pell, id)).addresses[0]?.reach]).toEqual([200, 'good']);
    const none = await pell.call('POST /api/people/:id/consent-mail', {
      params: { id },
      body: { purposeIds: [id] },
    });
    expect([none.status, none.body.fields]).toEqual([422, { purposeIds: 'does not exist' }]);
  });
});
