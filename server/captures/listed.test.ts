import type { Listed } from '@emporikon/core/reading/types';
import pg from 'pg';
import { knownPerson, knownPersons } from '../people/candidates';
import { runInTransaction } from '../commands/context';
import { useHouse } from '../testing/harness';
import { factsOf } from './listed';

const { house, pell } = useHouse();

const NAMES = ['Ann Reed', 'Bo Tarn', 'Cas Vell', 'Dora Finch', 'Eli Moss', 'Fay Nook'];
const listed = (count: number): Listed[] =>
  Array.from({ length: count }, (_, at) => ({
    name: at % 3 ? `${NAMES[at % NAMES.length] ?? ''}` : `Stranger Number${at}`,
    url: '',
    jobTitle: '',
    companyName: at % 2 ? 'Reed Mills' : '',
    email: at % 4 === 1 ? `p${at % NAMES.length}@reed.example` : '',
    phone: at % 5 === 2 ? `+44 7700 900 ${120 + (at % NAMES.length)}` : '',
  }));

beforeAll(async () => {
  for (const [at, fullName] of NAMES.entries())
    await pell.call('POST /api/people', {
      body: {
        fullName,
        email: `p${at}@reed.example`,
        phone: `+44 7700 900 ${120 + at}`,
        ...(at % 2 ? { companyName: 'Reed Mills' } : {}),
      },
    });
});

/** A clipped page with so many people in a list. */
async function clipped(count: number): Promise<string> {
  const { body } = await pell.call('POST /api/captures', { raw: `A list of ${count}`, type: 'text/plain' });
  await house.sequelize.query(
    "UPDATE captures SET message = message || jsonb_build_object('page', :page::jsonb) WHERE id = :id",
    {
      replacements: {
        id: body.id,
        page: JSON.stringify({
          url: 'https://list.example/',
          kind: 'list',
          conversation: [],
          people: listed(count),
        }),
      },
    },
  );
  return body.id;
}

async function questionsFor(id: string): Promise<number> {
  const asked = jest.spyOn(pg.Client.prototype, 'query');
  const { status, body } = await pell.call('GET /api/captures/:id', { params: { id } });
  const count = asked.mock.calls.length;
  asked.mockRestore();
  expect([status, body.listed.length > 0]).toEqual([200, true]);
  return count;
}

it('a capture is read with as many questions whether three people are listed in it or ninety', async () => {
  const [few, many] = [await clipped(3), await clipped(90)];
  await questionsFor(few);
  expect(await questionsFor(many)).toBe(await questionsFor(few));
});

it('many people are recognised together as each is alone', async () => {
  await runInTransaction(house.tools, null, async (context) => {
    const all = listed(60).map((one) => factsOf(context, one));
    const alone = [];
    for (const facts of all) alone.push(await knownPerson(context, facts));
    const together = await knownPersons(context, all);
    expect(together).toEqual(alone);
    expect(new Set(alone.map(({ kind }) => kind)).size).toBeGreaterThan(1);
    expect(await knownPersons(context, [])).toEqual([]);
  });
});
