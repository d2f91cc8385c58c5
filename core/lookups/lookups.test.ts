import fc from 'fast-check';
import { likelyEmails } from './addresses';
import { afterQuestion, backOff, CLOSED, mayAsk } from './breaker';
import { placeOf, placeOfAddress, placeOfNumber } from './place';
import { planLookUps, type Offer, type Wanted } from './plan';
import { isAboutThem, settleAnswer } from './settle';
import { shrunk, trusted } from './track';

const want = (
  field: Wanted['field'],
  points: number,
  held = 0,
  about: Wanted['about'] = 'person',
): Wanted => ({
  about,
  field,
  points,
  held,
});
const offer = (
  source: string,
  price: number,
  tells: [Wanted['field'], number, number][],
  over: Partial<Offer> = {},
): Offer => ({
  source,
  label: source,
  price,
  charges: 'answers',
  tells: tells.map(([field, coverage, accuracy]) => ({ about: 'person', field, coverage, accuracy })),
  needs: null,
  ...over,
});
const options = { pointWorth: 1, completeness: 0, enough: 100 };

describe('the order of look-ups', () => {
  it('is by expected gain minus price, worked by hand', () => {
    const steps = planLookUps(
      [want('email', 25), want('phone', 20)],
      [offer('finder', 10, [['email', 0.6, 0.9]]), offer('directory', 2, [['phone', 0.5, 0.8]])],
      options,
    );
    // finder: 25 × 0.6 × 0.9 = 13.5, less 10 = 3.5; directory: 20 × 0.5 × 0.8 = 8, less 2 = 6.
    expect(steps.map((step) => [step.source, step.gain, step.net])).toEqual([
      ['directory', 8, 6],
      ['finder', 13.5, 3.5],
    ]);
    expect(steps[0]?.because).toBe('phone 40 %');
  });
  it('leaves out what costs more than it gains, and asks nothing for what is known', () => {
    expect(
      planLookUps([want('email', 25, 0.9)], [offer('finder', 10, [['email', 0.6, 0.9]])], options),
    ).toEqual([]);
    expect(planLookUps([], [offer('finder', 1, [['email', 0.9, 0.9]])], options)).toEqual([]);
  });
  it('counts less for the second source of the same fact', () => {
    const steps = planLookUps(
      [want('phone', 20)],
      [offer('one', 1, [['phone', 0.8, 1]]), offer('two', 1, [['phone', 0.5, 1]])],
      options,
    );
    expect(steps.map((step) => step.gain)).toEqual([16, expect.closeTo(20 * 0.2 * 0.5)]);
  });
  it('charges a source that charges finds only for what it may find', () => {
    const [step] = planLookUps(
      [want('email', 25)],
      [offer('finder', 10, [['email', 0.5, 1]], { charges: 'finds' })],
      options,
    );
    expect([step?.cost, step?.price]).toEqual([5, 10]);
  });
  it('asks first for what opens another question, and says what waits for what', () => {
    const register = offer('register', 3, [], {
      tells: [{ about: 'company', field: 'domain', coverage: 0.8, accuracy: 1 }],
    });
    const finder = offer('finder', 4, [['email', 0.8, 1]], { needs: { about: 'company', field: 'domain' } });
    const steps = planLookUps(
      [want('email', 25), want('domain', 2, 0, 'company')],
      [finder, register],
      options,
    );
    // The register alone gains 1.6 for 3; it is asked because it opens the finder's 20 − 4.
    expect(steps.map((step) => [step.source, step.after])).toEqual([
      ['register', null],
      ['finder', 'register'],
    ]);
  });
  it('stops when enough is expected to be known', () => {
    const offers = [offer('one', 1, [['email', 0.9, 1]]), offer('two', 1, [['phone', 0.9, 1]])];
    const wanted = [want('email', 25), want('phone', 20)];
    expect(planLookUps(wanted, offers, { ...options, completeness: 60, enough: 80 })).toHaveLength(1);
    expect(planLookUps(wanted, offers, { ...options, completeness: 85, enough: 80 })).toHaveLength(0);
  });
  it('never plans a question twice or for a loss that opens nothing', () => {
    const rate = fc.double({ min: 0, max: 1, noNaN: true });
    const offers = fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), rate, rate), { maxLength: 6 });
    fc.assert(
      fc.property(offers, (made) => {
        const steps = planLookUps(
          [want('email', 25)],
          made.map(([price, coverage, accuracy], at) =>
            offer(`s${at}`, price, [['email', coverage, accuracy]]),
          ),
          options,
        );
        expect(new Set(steps.map((step) => step.source)).size).toBe(steps.length);
        expect(steps.every((step) => step.net > 0)).toBe(true);
      }),
    );
  });
});

describe('an answer', () => {
  const may = { fillBlanks: true, refused: [] };
  it.each([
    ['fills a blank', 'Baking', null, may, 'fill'],
    [
      'is put beside a blank when the house does not fill by itself',
      'Baking',
      null,
      { ...may, fillBlanks: false },
      'suggest',
    ],
    ['agrees whatever its spelling', 'baking ', 'Baking', may, 'agree'],
    ['is put beside what differs', 'Baking', 'Catering', may, 'suggest'],
    ['is not brought again once refused', 'Baking', 'Catering', { ...may, refused: ['baking'] }, 'drop'],
    ['of nothing is dropped', '  ', null, may, 'drop'],
  ] as const)('%s', (_, answer, held, how, outcome) =>
    expect(settleAnswer('industry', answer, held, how)).toBe(outcome),
  );
  it('knows numbers, technologies and legal names by what they mean', () => {
    expect(settleAnswer('phone', '+44 7700 900 123', '+447700900123', may)).toBe('agree');
    expect(settleAnswer('technologies', 'Web shop, Card terminal', 'card terminal,web shop', may)).toBe(
      'agree',
    );
    expect(settleAnswer('legalName', 'Coral Crumb Limited', 'Coral Crumb Ltd', may)).toBe('agree');
  });
  it('about another firm is not believed', () => {
    const of = (name: string, domain: string) =>
      isAboutThem({ companyName: 'Coral Crumb', domain: 'coralcrumb.example' }, { name, domain });
    expect(of('Coral Crumb Ltd', 'coralcrumb.example')).toBe(1);
    expect(of('Coral Crumb Ltd', 'other.example')).toBe(0);
    expect(
      isAboutThem({ companyName: 'Coral Crumb', domain: '' }, { name: 'Harrow Street', domain: '' }),
    ).toBe(0);
    const nearly = isAboutThem(
      { companyName: 'Coral Crumb', domain: '' },
      { name: 'Coral Crumbs', domain: '' },
    );
    expect(nearly).toBeGreaterThan(0.5);
    expect(nearly).toBeLessThan(1);
  });
  it('is trusted by how often those before it were kept', () => {
    expect(shrunk({ hits: 8, of: 10 }, { mean: 0.5, weight: 2 })).toBeCloseTo(9 / 12);
    expect(trusted(0.9, { hits: 0, of: 0 })).toBeCloseTo(0.9);
    expect(trusted(0.9, { hits: 0, of: 14 })).toBeCloseTo(5.4 / 20);
    expect(trusted(1, { hits: 50, of: 50 })).toBe(0.99);
  });
});

describe('a source that fails', () => {
  const now = '2026-11-24T10:00:00.000Z';
  it('is left alone after five failures in a row, tried once after its rest, and for longer each time', () => {
    let breaker = CLOSED;
    for (let count = 0; count < 4; count++) breaker = afterQuestion(breaker, false, now);
    expect(mayAsk(breaker, now)).toBe(true);
    breaker = afterQuestion(breaker, false, now);
    expect([mayAsk(breaker, now), breaker.openUntil]).toEqual([false, '2026-11-24T10:00:30.000Z']);
    expect(mayAsk(breaker, '2026-11-24T10:00:30.000Z')).toBe(true);
    expect(afterQuestion(breaker, false, now).openUntil).toBe('2026-11-24T10:01:00.000Z');
    expect(afterQuestion(breaker, true, now)).toEqual(CLOSED);
  });
  it('is waited for twice as long each time, within limits, and as long as it asks', () => {
    expect([1, 2, 3].map((tries) => backOff(tries, 1, null))).toEqual([250, 500, 1000]);
    expect([1, 2, 3].map((tries) => backOff(tries, 0, null))).toEqual([125, 250, 500]);
    expect(backOff(20, 1, null)).toBe(8000);
    expect(backOff(1, 0, 3000)).toBe(3000);
  });
});

describe('likely addresses', () => {
  const known = [
    { fullName: 'Aoife Nolan', email: 'aoife.nolan@liffey.example' },
    { fullName: 'Bram Bos', email: 'bram.bos@liffey.example' },
    { fullName: 'Cara Dunne', email: 'cara@liffey.example' },
    { fullName: 'The Desk', email: 'info@liffey.example' },
    { fullName: 'Someone Else', email: 'someone.else@other.example' },
  ];
  it('follow the pattern of the colleagues, with a probability from the counts', () => {
    const [first, second] = likelyEmails('Dónal Ó Briain', 'liffey.example', known);
    // given.family: (2 + 1.5 × 0.34) / (3 + 1.5) × 0.97; given: (1 + 1.5 × 0.22) / 4.5 × 0.97
    expect(first).toMatchObject({ email: 'donal.briain@liffey.example', follow: 2, known: 3 });
    expect(first?.probability).toBeCloseTo((2.51 / 4.5) * 0.97);
    expect([second?.email, second?.probability]).toEqual([
      'donal@liffey.example',
      expect.closeTo((1.33 / 4.5) * 0.97),
    ]);
    expect(first?.because).toBe('2 of 3 known addresses at liffey.example are given.family');
  });
  it('come from what is common where no colleague is known, and are then less likely', () => {
    const [first] = likelyEmails('Jürgen Groß', 'new.example', []);
    expect(first?.email).toBe('juergen.gross@new.example');
    expect(first?.probability).toBeLessThan(0.4);
  });
  it('leave out a namesake’s and say nothing of half a name', () => {
    const taken = likelyEmails('Aoife Nolan', 'liffey.example', known).map((email) => email.email);
    expect(taken).not.toContain('aoife.nolan@liffey.example');
    expect(likelyEmails('Aoife', 'liffey.example', known)).toEqual([]);
  });
  it('are together never surer than certain', () => {
    const mails = fc.array(fc.constantFrom(...known.map((one) => one.email)), { maxLength: 8 });
    fc.assert(
      fc.property(mails, (some) => {
        const likely = likelyEmails(
          'Dana Reed',
          'liffey.example',
          some.map((email) => ({ fullName: 'Aoife Nolan', email })),
        );
        expect(likely.reduce((sum, one) => sum + one.probability, 0)).toBeLessThan(1);
      }),
    );
  });
});

describe('country and time zone', () => {
  // ITU-T E.164 country codes; zones of the IANA database.
  it.each([
    ['+447700900123', 'GB', 'Europe/London'],
    ['+351910555014', 'PT', 'Europe/Lisbon'],
    ['+12125550142', 'US', 'America/New_York'],
    ['+14155550142', 'US', 'America/Los_Angeles'],
    ['+13125550142', 'US', 'America/Chicago'],
    ['+61255501234', 'AU', 'Australia/Sydney'],
    ['+61491570006', 'AU', null],
    ['+81312345678', 'JP', 'Asia/Tokyo'],
  ])('of %s are %s, %s', (number, country, timeZone) =>
    expect(placeOfNumber(number)).toMatchObject({ country, timeZone }),
  );
  it('of an address', () => {
    expect(placeOfAddress('Rua do Sol 4, 1200-123 Lisboa, Portugal')).toMatchObject({
      country: 'PT',
      timeZone: 'Europe/Lisbon',
    });
    expect(placeOfAddress('12 Pine St, Portland, OR 97201, USA')).toMatchObject({
      country: 'US',
      timeZone: 'America/Los_Angeles',
    });
    expect(placeOfAddress('')).toBeNull();
  });
  it('are surest where both agree, and the address goes before the number', () => {
    const agree = placeOf({ numbers: ['+351910555014'], addresses: ['Lisboa, Portugal'] });
    expect([agree?.country, agree?.confidence]).toEqual(['PT', 0.98]);
    expect(placeOf({ numbers: ['+447700900123'], addresses: ['Lisboa, Portugal'] })?.country).toBe('PT');
    expect(placeOf({ numbers: [], addresses: [] })).toBeNull();
  });
});
