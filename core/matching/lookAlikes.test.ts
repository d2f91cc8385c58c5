import fc from 'fast-check';
import { crowdOf } from '../../bench/crowd/people';
import { comparePeople, type PersonFacts } from './evidence';
import { compareCompanyFacts, type CompanyFacts } from './firms';
import { companyPairs } from './companyPairs';
import { FeatureBuilder } from './linkage/features';
import { answersOf, findCompanies, findPeople, gather, PERSON_PLAN } from './lookAlikes';
import { chanceOf } from './outcomes';
import { decidePerson } from './verdict';
import { DEFAULT_WEIGHTS, forBook, weightsFrom } from './weights';

const person = (over: Partial<PersonFacts>): PersonFacts => ({
  fullName: '',
  emails: [],
  phones: [],
  companyName: '',
  ...over,
});
const known = person({
  fullName: 'Ines Duarte',
  emails: ['ines@padariasol.example'],
  companyName: 'Padaria Sol',
});
const verdict = (facts: Partial<PersonFacts>, records: number, namesakes: number | null = null) =>
  decidePerson(person(facts), [{ id: '1', label: 'known', facts: known }], { records, namesakes });

describe('the verdict in a book of some size', () => {
  const name = { fullName: 'Ines Duarte', companyName: 'Other Firm' };
  it('asks more of a common name than of a rare one', () => {
    const [rare, common] = [verdict(name, 1_000_000, 1), verdict(name, 1_000_000, 4000)];
    expect(rare.matches[0]?.probability ?? 0).toBeGreaterThan(common.matches[0]?.probability ?? 0);
    expect(common.kind).toBe('new');
  });
  it('is same for the address in a book of any size', () => {
    for (const records of [10, 1000, 100_000, 1_000_000])
      expect(verdict({ fullName: 'Ines Duarte', emails: known.emails }, records, 200).kind).toBe('same');
  });
  it('is not sure of anybody by a switchboard', () => {
    const phones = ['+351910555014'];
    const candidate = [{ id: '1', label: 'known', facts: { ...known, phones } }];
    const facts = person({ fullName: 'Rui Reis', phones, companyName: 'Padaria Sol' });
    expect(decidePerson(facts, candidate, { records: 1000 }).kind).not.toBe('same');
    expect(decidePerson({ ...facts, switchboards: phones }, candidate, { records: 1000 }).kind).toBe('new');
  });
  it('knows short forms and other spellings of a name', () => {
    const of = (a: string, b: string) =>
      comparePeople(person({ fullName: a }), person({ fullName: b }))[0]?.text;
    expect(of('Bob Quill', 'Robert Quill')).toBe('name agrees in another form');
    expect(of('Jürgen Kühn', 'Juergen Kuehn')).toBe('name agrees in another spelling');
    expect(of('J. Quill', 'Joan Quill')).toBe('family name and initial agree');
    expect(of('Зоя Орлова', 'Zoya Orlova')).toBe('Зоя Орлова is Zoya Orlova written in Cyrillic');
    expect(of('Yoko Hashimoto', '橋本陽子')).toBe('橋本陽子 is Yoko Hashimoto written in Chinese characters');
    expect(of('María García López', 'María García')).toBe('one of two family names agrees');
    expect(of('Duarte Inês', 'Ines Duarte')).toBe('name agrees');
    expect(of('Robert Brown Sr.', 'Robert Brown Jr.')).toBe(
      'another of the same name: one is senior, one junior',
    );
    expect(of('Viktor Orlov', 'Anton Orlov')).toBe('same family name, another given name');
  });
  it('is symmetric', () => {
    const facts = fc.record({
      fullName: fc.constantFrom('Ines Duarte', 'Inês Duarte', 'I. Duarte', 'Rui Reis', ''),
      emails: fc.subarray([
        'ines@padariasol.example',
        'info@padariasol.example',
        'i.duarte@freemail.example',
      ]),
      phones: fc.subarray(['+351910555014', '+351910555015']),
      companyName: fc.constantFrom('Padaria Sol', 'Padaria Sol, Lda.', 'Greenbasket', ''),
    });
    const sum = (a: PersonFacts, b: PersonFacts): number =>
      comparePeople(a, b).reduce((bits, one) => bits + one.bits, 0);
    fc.assert(fc.property(facts, facts, (a, b) => expect(sum(a, b)).toBeCloseTo(sum(b, a), 10)));
  });
});

describe('weights', () => {
  it('are worth more in a larger book where chance would have to be stranger', () => {
    const [small, large] = [forBook(DEFAULT_WEIGHTS, 100), forBook(DEFAULT_WEIGHTS, 1_000_000)];
    expect(small.prior).toBeCloseTo(-Math.log2(1000), 10);
    expect(large.prior).toBeCloseTo(-Math.log2(1_000_000), 10);
    expect(large.bits.address).toBeGreaterThan(small.bits.address);
    expect(large.bits.otherName).toBe(small.bits.otherName);
  });
  // Source: Fellegi & Sunter 1969: the weight of an agreement is log2(m/u).
  it('are log2 of m over u where there is enough to learn from, and judgement where there is not', () => {
    const u = 0.5 / 2 ** 12;
    const many = weightsFrom({ number: 0.5 }, { number: u }, 2_000_000, 1000);
    expect(many.bits.number).toBeCloseTo(12, 2);
    const few = weightsFrom({ number: 0.5 }, { number: u }, 1, 1000);
    expect(Math.abs(few.bits.number - DEFAULT_WEIGHTS.bits.number)).toBeLessThan(0.05);
  });
});

/** A made-up crowd as a book, and whom each row is of. */
function bookOf(size: number, seed: number) {
  const { rows, who } = crowdOf(size, seed);
  const builder = new FeatureBuilder(PERSON_PLAN);
  for (const one of rows)
    builder.add([
      one.given,
      one.family,
      one.email,
      '',
      one.phone,
      '',
      one.company,
      one.title,
      one.street,
      one.birthday,
      '',
    ]);
  return { features: builder.finish(), who };
}

describe('people who are in the book twice', () => {
  const { features, who } = bookOf(3000, 4);
  const { groups, weights } = findPeople(features, null, new Set());
  const isRight = (rows: readonly number[]): boolean => new Set(rows.map((row) => who[row])).size === 1;
  it('are found, the surest first and nearly always rightly', () => {
    expect(groups.length).toBeGreaterThan(500);
    const sure = groups.filter((group) => group.probability >= 0.98);
    expect(sure.filter((group) => isRight(group.rows)).length / sure.length).toBeGreaterThan(0.99);
    expect(groups.map((group) => group.probability)).toEqual(
      groups.map((group) => group.probability).sort((a, b) => b - a),
    );
  });
  it('teach the book its own weights', () => {
    expect(weights?.records).toBe(features.rows);
    expect(weights?.bits.address).toBeGreaterThan(5);
    expect(weights?.bits.otherName).toBeLessThan(-2);
  });
  it('stay apart when somebody said so, however much alike', () => {
    const [first] = groups;
    const [a = 0, b = 0] = first?.rows ?? [];
    const again = findPeople(features, null, new Set([a * features.rows + b]));
    expect(again.groups.some((group) => group.rows.includes(a) && group.rows.includes(b))).toBe(false);
  });
  it('are judged as answers say', () => {
    const row = (at: number, number: string): string[] => {
      const cells = Array.from({ length: 11 }, () => '');
      return Object.assign(cells, { 0: 'Ana', 1: `Reis${at}`, 4: number });
    };
    const judged = answersOf(
      Array.from({ length: 300 }, (_, at) => ({
        rows: [row(at, `+35191055${at + 1000}`), row(at, `+35192077${at + 2000}`)] as const,
        isSame: true,
      })),
      PERSON_PLAN,
    );
    const taught = findPeople(features, judged, new Set());
    expect(taught.weights?.bits.otherNumber ?? 0).toBeGreaterThan(weights?.bits.otherNumber ?? 0);
  });
  it('are found in a small book', () => {
    const builder = new FeatureBuilder(PERSON_PLAN);
    const rows: Record<number, string>[] = [
      { 0: 'Ines', 1: 'Duarte', 2: 'ines@padariasol.example', 6: 'Padaria Sol' },
      { 0: 'Inês', 1: 'Duarte', 4: '+351910555014', 6: 'Padaria Sol, Lda.' },
      { 0: 'Rui', 1: 'Reis' },
    ];
    for (const row of rows) builder.add(Array.from({ length: 11 }, (_, at) => row[at] ?? ''));
    expect(findPeople(builder.finish(), null, new Set()).groups.map((group) => group.rows)).toEqual([[0, 1]]);
  });
});

it('joins no chain of likenesses whose ends were told apart', () => {
  const edges = [
    { a: 0, b: 1, logOdds: 5 },
    { a: 1, b: 2, logOdds: 4 },
  ];
  const odds = (a: number, b: number) => (a === 0 && b === 2 ? 1 : 5);
  expect(gather({ edges, logOdds: odds }, 3, new Set()).map((one) => one.rows)).toEqual([[0, 1, 2]]);
  const apart = gather({ edges, logOdds: odds }, 3, new Set([2]));
  expect(apart).toHaveLength(1);
  expect(apart[0]?.rows).toHaveLength(2);
});

it('counts how often chance agrees: exactly for equal values', () => {
  const builder = new FeatureBuilder(PERSON_PLAN);
  for (let at = 0; at < 100; at++)
    builder.add([at % 2 ? 'Ana' : 'Rui', `Reis${at % 50}`, '', '', '', '', '', '', '', '', '']);
  const chance = chanceOf(builder.finish());
  // Fifty names of two people each: 50 × 2 of 100 × 99 ordered pairs; one more on either side, so that nothing is never.
  expect(chance.name).toBeCloseTo((50 * 2 + 1) / (100 * 99 + 1), 6);
  expect(chance.number).toBe(0);
});

describe('companies that are in the book twice', () => {
  const company = (name: string, over: Partial<CompanyFacts> = {}): CompanyFacts => ({
    name,
    domain: null,
    ...over,
  });
  const found = (...all: CompanyFacts[]) => findCompanies(all, new Set()).map((group) => group.rows);
  it('are told by name, however the legal form is written', () =>
    expect(found(company('Padaria Sol'), company('PADARIA SOL, Lda.'), company('Greenbasket Ltd'))).toEqual([
      [0, 1],
    ]));
  it('by a name with a slip and the same number', () =>
    expect(
      found(
        company('Greenbasket Foods', { phone: '+442079460100' }),
        company('Greenbaskett Foods', { phone: '+442079460100' }),
      ),
    ).toEqual([[0, 1]]));
  it('are not branches of each other', () => {
    expect(
      found(
        company('Greenbasket', { phone: '+442079460100' }),
        company('Greenbasket Porto', { phone: '+442079460101' }),
      ),
    ).toEqual([]);
    const reasons = compareCompanyFacts(company('Greenbasket'), company('Greenbasket Porto'));
    expect(reasons[0]?.text).toBe('the name of a branch');
  });
  it('are compared with few others, in a book of any size', () => {
    const many = Array.from({ length: 4000 }, (_, at) =>
      company(`Firm ${at} Bakery`, { domain: `firm${at}.example` }),
    );
    expect(companyPairs(many).size).toBeLessThan(4000 * 20);
  });
  it('are compared whichever comes first', () => {
    const [one, other] = [company('Padaria Sol', { domain: 'padariasol.example' }), company('Padariasol')];
    expect([...companyPairs([one, other])]).toEqual([...companyPairs([other, one])]);
  });
});
