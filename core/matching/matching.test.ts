import fc from 'fast-check';
import { comparePeople, weightInWords, type PersonFacts } from './evidence';
import { jaro, jaroWinkler } from './similarity';
import { decideCompany, decidePerson, toProbability } from './verdict';

describe('string similarity', () => {
  // Source: W. E. Winkler, "String Comparator Metrics …", 1990, table of examples; the values are from memory.
  it.each([
    ['MARTHA', 'MARHTA', 0.944, 0.961],
    ['DWAYNE', 'DUANE', 0.822, 0.84],
    ['DIXON', 'DICKSONX', 0.767, 0.813],
  ])('%s and %s', (a, b, plain, winkler) => {
    expect(jaro(a, b)).toBeCloseTo(plain, 3);
    expect(jaroWinkler(a, b)).toBeCloseTo(winkler, 3);
  });

  it('is symmetric, and between 0 and 1', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 20 }), fc.string({ maxLength: 20 }), (a, b) => {
        const there = jaroWinkler(a, b);
        expect(there).toBeGreaterThanOrEqual(0);
        expect(there).toBeLessThanOrEqual(1 + 1e-12);
        expect(jaro(b, a)).toBeCloseTo(jaro(a, b), 10);
      }),
    );
  });
});

const ines: PersonFacts = {
  fullName: 'Ines Duarte',
  emails: ['ines@padariasol.example'],
  phones: ['+351910555014'],
  companyName: 'Padaria Sol',
};
const person = (facts: Partial<PersonFacts>): PersonFacts => ({
  fullName: '',
  emails: [],
  phones: [],
  companyName: '',
  ...facts,
});
const verdict = (facts: Partial<PersonFacts>, known = ines) =>
  decidePerson(person(facts), [{ id: '1', label: 'known', facts: known }]);

describe('the verdict', () => {
  // Source: Bayes' rule in log2 odds (Fellegi & Sunter 1969): weights add, ten bits against and ten for leave even odds.
  it('turns bits into probability', () => {
    expect(toProbability(0)).toBe(0.5);
    expect(toProbability(10)).toBeCloseTo(1024 / 1025, 10);
  });

  it('is same for the same address and name', () =>
    expect(verdict({ fullName: 'Ines Duarte', emails: ['INES@padariasol.example'] }).kind).toBe('same'));
  it('is same for the same address when nobody is named', () =>
    expect(verdict({ emails: ['ines@padariasol.example'] }).kind).toBe('same'));
  it('is maybe for the same name at another address (common practice)', () =>
    expect(verdict({ fullName: 'Ines Duarte', emails: ['ines.duarte@freemail.example'] }).kind).toBe(
      'maybe',
    ));
  it('is maybe for the same address under another name', () =>
    expect(verdict({ fullName: 'Rui Duarte', emails: ['ines@padariasol.example'] }).kind).not.toBe('new'));
  it('is new for a stranger', () =>
    expect(
      verdict({
        fullName: 'Tomasz Zieliński',
        emails: ['t@greenbasket.example'],
        companyName: 'Greenbasket',
      }),
    ).toEqual({ kind: 'new', matches: [] }));
  it('is not sure of a shared mailbox', () => {
    const info = person({
      fullName: 'Ana Sol',
      emails: ['info@padariasol.example'],
      companyName: 'Padaria Sol',
    });
    expect(
      verdict({ fullName: 'Rui Reis', emails: ['info@padariasol.example'], companyName: 'Padaria Sol' }, info)
        .kind,
    ).toBe('new');
  });
  it('is not sure of a relative who writes from the same address', () => {
    const found = verdict({ fullName: 'Rita Duarte', emails: ['ines@padariasol.example'] });
    expect(found.kind).toBe('maybe');
    expect(found.matches[0]?.reasons.map((reason) => `${reason.text}: ${reason.weight}`)).toEqual([
      'same address: decides',
      'same family name, another given name: strong, against',
    ]);
  });
  it('counts two mobiles and two birthdays against their being one', () => {
    const known = person({ fullName: 'Ines Duarte', phones: ['+351910555014'], birthday: '1980-04-02' });
    const texts = (facts: Partial<PersonFacts>): string[] =>
      comparePeople(person({ fullName: 'Ines Duarte', ...facts }), known)
        .filter(({ bits }) => bits < 0)
        .map(({ text }) => text);
    expect(texts({ phones: ['+447700900123'] })).toEqual(['each has another mobile']);
    // A landline is no contradiction: the same person has both.
    expect(texts({ phones: ['+442079460123'] })).toEqual([]);
    expect(texts({ birthday: '1981-04-02' })).toEqual(['another birthday']);
    expect(texts({ birthday: '--04-02' })).toEqual([]);
    expect(texts({ birthday: '--05-02' })).toEqual(['another birthday']);
  });
  it('is maybe when two are equally the one', () => {
    const twins = ['1', '2'].map((id) => ({ id, label: id, facts: ines }));
    expect(decidePerson(ines, twins).kind).toBe('maybe');
  });

  it('gives its reasons in words, strongest first', () => {
    const [match] = verdict({
      fullName: 'Ines Duarte',
      emails: ['ines@padariasol.example'],
      phones: ['+351910555014'],
    }).matches;
    expect(match?.reasons.map((reason) => `${reason.text}: ${reason.weight}`)).toEqual([
      'same address: decides',
      'same number: strong',
      'name agrees: strong',
    ]);
    expect(weightInWords(-9)).toBe('strong, against');
  });

  it('is the same whichever side is compared with which', () => {
    const facts = fc.record({
      fullName: fc.constantFrom('Ines Duarte', 'I. Duarte', 'Inês Duarte', 'Rui Reis', ''),
      emails: fc.subarray(['ines@padariasol.example', 'info@padariasol.example', 'x@gmail.com']),
      phones: fc.subarray(['+351910555014', '+447700900123', '+442079460123']),
      birthday: fc.constantFrom(null, '1980-04-02', '--04-02', '1981-04-02'),
      companyName: fc.constantFrom('Padaria Sol', 'Padaria Sol, Lda.', 'Coral Crumb', ''),
    });
    const bits = (a: PersonFacts, b: PersonFacts): number =>
      comparePeople(a, b).reduce((sum, one) => sum + one.bits, 0);
    fc.assert(fc.property(facts, facts, (a, b) => expect(bits(a, b)).toBeCloseTo(bits(b, a), 10)));
  });

  it('knows a company by its domain before its name', () => {
    const known = [
      { id: '1', label: 'Padaria Sol', facts: { name: 'Padaria Sol', domain: 'padariasol.example' } },
    ];
    expect(decideCompany({ name: 'Padaria Sol, Lda.', domain: 'padariasol.example' }, known).kind).toBe(
      'same',
    );
    expect(decideCompany({ name: 'Padaria Sol', domain: 'otherbakery.example' }, known).kind).not.toBe(
      'same',
    );
    expect(decideCompany({ name: 'Coral Crumb', domain: 'coralcrumb.example' }, known).kind).toBe('new');
  });
});
