import { lettering } from '../testing/lettering';
import { useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines } = useHouse();
const { person, company } = saying(pell);
const { begin, sent, reachable: add } = lettering(house);
const reachable = (name: string, email: string): Promise<string> => add(pell, name, email);

it('lists my letters by state and record, page by page', async () => {
  const id = await reachable('List Ted', 'list@ted.example');
  for (const subject of ['A', 'B', 'C']) await begin(pell, { about: { personId: id }, subject });
  const first = await pell.call('GET /api/letters', { query: { personId: id, limit: '2', state: 'draft' } });
  expect(first.body.items.map(({ subject }) => subject)).toEqual(['C', 'B']);
  const rest = await pell.call('GET /api/letters', {
    query: { personId: id, limit: '2', state: 'draft', cursor: first.body.next ?? '' },
  });
  expect(rest.body.items.map(({ subject }) => subject)).toEqual(['A']);
  expect((await ines.call('GET /api/letters', { query: { personId: id } })).body.items).toEqual([]);
  await sent(pell, { about: { personId: id } });
  expect(
    (await pell.call('GET /api/letters', { query: { state: 'sent', personId: id } })).body.items,
  ).toMatchObject([{ subject: 'Hello', beginning: 'Hello', recipients: [{ state: 'sent' }] }]);
});

it('is found again on whatever record it was written about', async () => {
  const personId = await reachable('Abou T. Many', 'about@many.example');
  const made = async (path: 'leads' | 'deals' | 'projects' | 'cases', more: object = {}): Promise<string> => {
    const answer = await pell.call(`POST /api/${path}`, { body: { title: path, personId, ...more } });
    const { id, lead, deal } = answer.body as Record<string, { id: string }> & { id?: string };
    return id ?? lead?.id ?? deal?.id ?? '';
  };
  const ids = {
    companyId: await company('Many Wheels Ltd'),
    leadId: await made('leads'),
    dealId: await made('deals', { amountMinor: 100 }),
    projectId: await made('projects', { personId: undefined, people: [personId] }),
    caseId: await made('cases'),
  };
  for (const [key, id] of Object.entries(ids)) {
    const letter = await begin(pell, { about: { [key]: id }, subject: `About ${key}` });
    const { items } = (await pell.call('GET /api/letters', { query: { [key]: id } })).body;
    expect([key, items.map((one) => one.id)]).toEqual([key, expect.arrayContaining([letter.id])]);
    expect(items.length).toBeLessThan(5);
  }
});

it('goes to whoever of a company is called so, and to nobody where that is not one person', async () => {
  const companyId = await company('Namesake Ltd');
  const email = (value: string, id: string) =>
    pell.call('POST /api/people/:id/contacts', { params: { id }, body: { kind: 'email', value } });
  const ana = await person('Ana Leça Prado', companyId);
  await email('ana@namesake.example', ana);
  for (const name of ['Rui Dias', 'Rui Costa']) await person(name, companyId);
  const to = async (toName: string) =>
    pell.call('POST /api/letters', { body: { about: { companyId }, toName, words: 'Hello' } });
  expect((await to('leca')).body.letter).toMatchObject({
    about: { person: { id: ana } },
    recipients: [{ address: 'ana@namesake.example' }],
    html: '<p>Hello</p>',
  });
  expect((await to('Rui')).body.detail).toBe('Several people here are called Rui. Write their full name.');
  expect((await to('Zoe')).body.fields).toEqual({ toName: 'is nobody here' });
});
