import { consenting } from '../testing/consenting';
import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();
const { sent, last, show, reachable: add } = lettering(house);
const { idOf, note, pathOf, open: openPage } = consenting(house);
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0';
const WORDS = {
  subject: 'Two bikes',
  html: '<p>See <a href="https://wharfside.example/long?a=1&amp;b=2">the Long</a>, <a href="mailto:a@b.example">ask</a>, again <a href="https://wharfside.example/long?a=1&amp;b=2">the Long</a>.</p>',
};
let serial = 0;
const reachable = (): Promise<string> => add(pell, 'Fiona Follow', `fiona${++serial}@follow.example`);

/** A letter to one person that went out, and the links and the mark in it. */
async function letterTo(
  personId: string,
  words = WORDS,
): Promise<{ id: string; links: string[]; marks: string[]; text: string; html: string }> {
  const { id } = await sent(pell, { about: { personId } }, words);
  const mail = await last();
  const html = String(mail.html);
  return {
    id,
    html,
    text: mail.text ?? '',
    links: [...html.matchAll(/href="http:\/\/[^"/]+(\/l\/[\w-]+)"/g)].map(([, path = '']) => path),
    marks: [...html.matchAll(/src="http:\/\/[^"/]+(\/o\/[\w-]+)"/g)].map(([, path = '']) => path),
  };
}
/** Ten minutes later somebody outside asks for it. */
async function fetch(url: string, headers: Record<string, string> = {}, minutes = 10) {
  const { now } = house.tools;
  const then = now().getTime() + minutes * 60_000 + 120_000;
  house.tools.now = () => new Date(then);
  const answer = await house.app.inject({ url, headers: { 'user-agent': BROWSER, ...headers } });
  house.tools.now = now;
  return answer;
}
const outcomeOf = async (id: string) => (await show(pell, id)).recipients[0];
async function allow(personId: string): Promise<void> {
  await note(pell, personId, {
    purposeId: await idOf(pell, 'Opens and clicks'),
    state: 'agreed',
    words: 'by phone',
  });
}

describe('a letter to somebody who agreed that its reading is recorded', () => {
  it('leads to its links by way of ours, and keeps them as written in plain text and in the history', async () => {
    const id = await reachable();
    await allow(id);
    const letter = await letterTo(id);
    expect([letter.links.length, new Set(letter.links).size, letter.marks.length]).toEqual([2, 1, 1]);
    expect(letter.html).toContain('mailto:a@b.example');
    expect(letter.text).toContain('https://wharfside.example/long?a=1&b=2');
    expect(letter.text).not.toContain('/l/');
    const [{ raw }] = (
      await house.sequelize.query(
        "SELECT convert_from(raw, 'UTF8') AS raw FROM captures WHERE came_by = 'letter' ORDER BY received_at DESC LIMIT 1",
      )
    )[0] as [{ raw: string }];
    expect(raw).not.toMatch(/\/[lo]\/[\w-]{30}/);
    const led = await fetch(letter.links[0] ?? '');
    expect([
      led.statusCode,
      led.headers.location,
      led.headers['referrer-policy'],
      led.headers['cache-control'],
    ]).toEqual([302, 'https://wharfside.example/long?a=1&b=2', 'no-referrer', 'no-store']);
    expect(await outcomeOf(letter.id)).toMatchObject({
      clicks: 1,
      clickedAt: expect.any(String) as string,
      openedAt: expect.any(String) as string,
    });
    await fetch(letter.links[0] ?? '');
    expect(await outcomeOf(letter.id)).toMatchObject({ clicks: 1 });
    await fetch(letter.links[0] ?? '', {}, 20);
    expect(await outcomeOf(letter.id)).toMatchObject({ clicks: 2 });
    expect(await house.count(`signals WHERE person_id = '${id}' AND kind = 'clicked'`)).toBe(2);
    const { items } = (await pell.call('GET /api/ledger', { query: { personId: id } })).body;
    expect(items.find(({ kind }) => kind === 'mail')?.letter).toMatchObject([{ clicks: 2 }]);
    const found = async (value: string): Promise<number> => {
      const filter = { all: [{ field: 'letterResult', op: 'hasAny', value: [value] }] };
      const answer = await pell.call('POST /api/queries', { body: { query: { kind: 'entry', filter } } });
      expect([value, answer.status]).toEqual([value, 200]);
      return answer.body.items.length;
    };
    expect([await found('clicked'), await found('gone')]).toEqual([1, 0]);
  });

  it('is opened once, by a person; a program that fetches pictures is told apart', async () => {
    const id = await reachable();
    await allow(id);
    const { id: letterId, marks, links } = await letterTo(id);
    const [mark = '', link = ''] = [marks[0], links[0]];
    const picture = await fetch(mark, { 'user-agent': 'Mozilla/5.0 (via ggpht.com SomeImageProxy)' });
    expect([
      picture.statusCode,
      picture.headers['content-type'],
      picture.rawPayload.subarray(0, 3).toString(),
    ]).toEqual([200, 'image/gif', 'GIF']);
    expect(await outcomeOf(letterId)).toMatchObject({
      openedAt: null,
      fetchedAt: expect.any(String) as string,
    });
    await fetch(link, { 'user-agent': 'LinkScanner/1.0' });
    expect(await outcomeOf(letterId)).toMatchObject({ clicks: 0, openedAt: null });
    for (let again = 0; again < 3; again++) await fetch(mark);
    expect(await outcomeOf(letterId)).toMatchObject({ openedAt: expect.any(String) as string });
    expect(await house.count(`signals WHERE person_id = '${id}'`)).toBe(1);
  });

  it('records nothing more once they withdraw, and leads to its links all the same', async () => {
    const id = await reachable();
    await allow(id);
    const { id: letterId, links, marks } = await letterTo(id);
    await note(pell, id, { purposeId: await idOf(pell, 'Opens and clicks'), state: 'withdrawn' });
    expect((await fetch(links[0] ?? '')).statusCode).toBe(302);
    await fetch(marks[0] ?? '');
    expect(await outcomeOf(letterId)).toMatchObject({ clicks: 0, openedAt: null, fetchedAt: null });
    expect(await house.count(`signals WHERE person_id = '${id}'`)).toBe(0);
  });

  it('read by one of us records nothing', async () => {
    const id = await reachable();
    await allow(id);
    const { id: letterId, links, marks } = await letterTo(id);
    const token = (await pell.call('POST /api/tokens', { body: { name: `t${serial}` } })).body.token;
    for (const url of [links[0] ?? '', marks[0] ?? ''])
      await fetch(url, { authorization: `Bearer ${token}` });
    expect(await outcomeOf(letterId)).toMatchObject({ clicks: 0, openedAt: null, fetchedAt: null });
  });

  it('leads nowhere else: its links are signed, and one use is not good for another', async () => {
    const id = await reachable();
    await allow(id);
    const { links, marks } = await letterTo(id);
    const [link = '', mark = ''] = [links[0], marks[0]];
    const forged = [
      `${link.slice(0, -2)}AA`,
      mark.replace('/o/', '/l/'),
      `/l/${(await pathOf(pell, id)).slice(3)}`,
      '/l/x',
    ];
    for (const url of forged) expect([url, (await fetch(url)).statusCode]).toEqual([url, 404]);
    expect((await fetch(`${link}?url=https://else.example/`)).headers.location).toBe(
      'https://wharfside.example/long?a=1&b=2',
    );
    expect((await openPage(link.replace('/l/', '/u/'))).statusCode).toBe(404);
  });
});

describe('nothing is recorded', () => {
  it('of somebody in a country that asks for consent first, nor against a wish, nor of several readers', async () => {
    // The organisation is in such a country, and nothing else tells where she is.
    const id = await reachable();
    expect((await letterTo(id)).links).toEqual([]);
    await note(pell, id, { purposeId: await idOf(pell, 'Opens and clicks'), state: 'withdrawn' });
    const rules = (await mara.call('GET /api/tracking-rules')).body;
    const put = (body: object) => mara.call('PUT /api/tracking-rules', { body });
    expect((await pell.call('PUT /api/tracking-rules', { body: rules })).status).toBe(403);
    expect((await put({ ...rules, offCountries: [] })).status).toBe(200);
    expect((await put({ ...rules, offCountries: [] })).status).toBe(409);
    expect((await letterTo(id)).links).toEqual([]);
    const other = await reachable();
    expect((await letterTo(other)).links).toHaveLength(2);
    const { html } = await letterTo(other, { ...WORDS, subject: 'Only clicks' });
    expect(html).toContain('/o/');
    await sent(
      pell,
      {
        recipients: [
          { way: 'to', address: `fiona${serial}@follow.example`, name: '' },
          { way: 'cc', address: 'second@follow.example', name: '' },
        ],
      },
      WORDS,
    );
    expect(String((await last()).html)).not.toMatch(/\/[lo]\//);
    await put({ ...(await mara.call('GET /api/tracking-rules')).body, opens: false });
    const clicksOnly = await letterTo(other);
    expect([clicksOnly.links.length, clicksOnly.marks]).toEqual([2, []]);
    await put({
      ...(await mara.call('GET /api/tracking-rules')).body,
      opens: true,
      offCountries: rules.offCountries,
    });
  });
});
