import fc from 'fast-check';
import { jaro } from '../similarity';
import { candidatePairs } from './blocks';
import { Comparer, LEVELS } from './compare';
import { expectedNamesakes, FeatureBuilder, type Features } from './features';
import { groupUp, type Edge } from './groups';
import { JELLYFISH } from './jellyfish.fixture';
import { likelyEdges, linkedPairs, type LinkedPair } from './link';
import { estimate, type Model, type Patterns } from './mixture';
import { compareAll } from './patterns';
import type { Kind } from './plan';
import { planOf } from './plan';
import { Scorer } from './score';
import { Dictionary, isOneSlip, packedJaroWinkler } from './strings';

const HEAD = ['id', 'given name', 'family name', 'email', 'phone', 'company', 'postcode', 'city'];
type Row = string[];

function featuresOf(rows: readonly Row[], head = HEAD): { features: Features; kinds: Kind[] } {
  const plan = planOf(
    head,
    rows.map((row) => [...row]),
  );
  const builder = new FeatureBuilder(plan);
  for (const row of rows) builder.add(row);
  return { features: builder.finish(), kinds: plan.fields.map((field) => field.kind) };
}

function linked(rows: readonly Row[], head = HEAD): LinkedPair[] {
  const { features, kinds } = featuresOf(rows, head);
  const pairs = candidatePairs(features);
  const compared = compareAll(features, pairs);
  const model = estimate(kinds, compared.patterns, { namesakes: expectedNamesakes(features) });
  return linkedPairs(features, model, likelyEdges(features, model, pairs, compared));
}

describe('packed strings', () => {
  // Source: python3-jellyfish of Debian. It raises for the common prefix only what is likelier than 0.7.
  it.each(JELLYFISH)('%s and %s are as alike as jellyfish says', (a, b, plain, winkler) => {
    const words = new Dictionary();
    const [one, two] = [words.add(a), words.add(b)];
    expect(jaro(a, b)).toBeCloseTo(plain, 4);
    if (plain > 0.7) expect(packedJaroWinkler(words.pack(), one, two)).toBeCloseTo(winkler, 4);
  });

  // Source: Damerau, "A technique for computer detection and correction of spelling errors", 1964: the four single errors.
  it('knows the four slips, and no two of them', () => {
    const words = new Dictionary();
    const slip = (a: string, b: string): boolean => {
      const [one, two] = [words.add(a), words.add(b)];
      return isOneSlip(words.pack(), one, two);
    };
    for (const b of ['duart', 'duaarte', 'duerte', 'duatre', 'duarte']) expect(slip('duarte', b)).toBe(true);
    for (const b of ['duar', 'deurte', 'dautre', 'lopez']) expect(slip('duarte', b)).toBe(false);
    expect(slip('p', 'j')).toBe(false);
  });
});

describe('weights', () => {
  const model = (share: number, same: number[][], other: number[][]): Model => ({
    kinds: ['text', 'text'],
    rounds: 0,
    classes: [
      { name: 'same', share, odds: same.map((odds) => Float64Array.from([0, ...odds])) },
      { name: 'strangers', share: 1 - share, odds: other.map((odds) => Float64Array.from([0, ...odds])) },
    ],
  });
  // Source: Herzog, Scheuren & Winkler, "Data Quality and Record Linkage Techniques" (2007), the formula of Fellegi & Sunter
  // (1969): agreement weighs log2(m/u), disagreement log2((1−m)/(1−u)). Worked by hand with m 0.9 and u 0.01: 6.49, −3.31.
  it('are those of Fellegi and Sunter for fields that are independent', () => {
    const { features } = featuresOf(
      [
        ['1', 'red', 'round'],
        ['2', 'red', 'flat'],
        ['3', 'blue', 'wide'],
      ],
      ['id', 'colour', 'shape'],
    );
    const even = model(
      0.5,
      [
        [0.9, 0, 0.1],
        [0.9, 0, 0.1],
      ],
      [
        [0.01, 0, 0.99],
        [0.01, 0, 0.99],
      ],
    );
    const scorer = new Scorer(features, even);
    const bits = (levels: number[]): number => scorer.usualOdds(Uint8Array.from(levels), 0) / Math.LN2;
    expect(bits([1, 0])).toBeCloseTo(6.492, 3);
    expect(bits([0, 3])).toBeCloseTo(-3.307, 3);
    expect(bits([1, 3])).toBeCloseTo(6.492 - 3.307, 2);
    expect(bits([0, 0])).toBeCloseTo(0, 6);
  });

  it('are found again by EM in pairs made with known ones', () => {
    let state = 7;
    const random = (): number => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
    const fields = 5;
    const patterns: Patterns = {
      levels: new Uint8Array(4 ** fields * fields),
      counts: new Float64Array(4 ** fields),
      size: 0,
    };
    const numbers = new Map<string, number>();
    const m = [0.95, 0.9, 0.85, 0.8, 0.7];
    const u = [0.02, 0.05, 0.1, 0.2, 0.3];
    for (let pair = 0; pair < 60_000; pair++) {
      const isSame = random() < 0.2;
      const levels = m.map((agrees, field) => (random() < (isSame ? agrees : (u[field] ?? 0)) ? 1 : 3));
      const key = levels.join('');
      const at = numbers.get(key) ?? patterns.size++;
      numbers.set(key, at);
      patterns.levels.set(levels, at * fields);
      patterns.counts[at] = (patterns.counts[at] ?? 0) + 1;
    }
    const { classes } = estimate(['text', 'text', 'number', 'number', 'text'], patterns);
    const of = (name: string) => classes.find((one) => one.name === name);
    expect(of('same')?.share).toBeCloseTo(0.2, 1);
    for (let field = 0; field < fields; field++) {
      expect(Math.abs((of('same')?.odds[field]?.[1] ?? 0) - (m[field] ?? 0))).toBeLessThan(0.03);
      expect(Math.abs((of('strangers')?.odds[field]?.[1] ?? 0) - (u[field] ?? 0))).toBeLessThan(0.03);
    }
  });
});

describe('a comparison', () => {
  const level = (a: Row, b: Row): Record<string, string> => {
    const { features } = featuresOf([
      a,
      b,
      ['9', 'Zoë', 'Quill', 'z@q.example', '+999 1 1234567', 'Quill', 'Q1 1QQ', 'Quay'],
    ]);
    const out = new Uint8Array(features.fields.length);
    new Comparer(features).compare(0, 1, out);
    return Object.fromEntries(
      features.fields.map((field, at) => [field.kind, LEVELS[field.kind][out[at] ?? 0] ?? '']),
    );
  };
  it('sees nicknames, initials, swapped names, marks, legal forms and any written form of a number', () => {
    expect(
      level(
        [
          '1',
          'Robert',
          'Müller',
          'bob@muller.example',
          '+44 20 7946 0123',
          'Müller Foods Ltd',
          'A1 1AA',
          'Ashcombe',
        ],
        [
          '2',
          'Bob',
          'Mueller',
          'info@muller.example',
          '(020) 7946-0123',
          'Müller Foods',
          'a11aa',
          'ashcombe',
        ],
      ),
    ).toEqual({
      given: 'short for the same',
      family: 'agrees',
      email: 'same firm',
      phone: 'same number',
      company: 'same',
      postcode: 'same',
      city: 'same',
    });
    expect(
      level(['1', 'Duarte', 'Ines', '', '', '', '', ''], ['2', 'Inês', 'Duarte', '', '', '', '', '']).given,
    ).toBe('swapped');
    expect(
      level(['1', 'I.', 'Duarte', '', '', '', '', ''], ['2', 'Ines', 'Duarte', '', '', '', '', '']).given,
    ).toBe('initial agrees');
  });
  it('is the same in either order', () => {
    const cell = (...values: string[]) => fc.constantFrom('', ...values);
    const row = fc.tuple(
      cell('Robert', 'Bob', 'B.', 'Rob', 'Ines', 'Duarte'),
      cell('Duarte', 'Duerte', 'Smith', 'Smyth', 'Smith-Jones', 'Ines'),
      cell('bob@a.example', 'bob@b.example', 'info@a.example', 'bobb@a.example'),
      cell('020 7946 0123', '+44 20 7946 0124', '07700 900123'),
      cell('Sol Ltd', 'Sol', 'Sol Bakery', 'Luna'),
      cell('A1 1AA', 'A1 1AB', 'Z9 9ZZ'),
      cell('Ashcombe', 'Ascombe', 'Foxley'),
    );
    fc.assert(
      fc.property(row, row, (a, b) =>
        expect(level(['1', ...a], ['2', ...b])).toEqual(level(['1', ...b], ['2', ...a])),
      ),
      { numRuns: 200 },
    );
  });
});

/** A small book: people written down twice with slips, colleagues, a family and namesakes among them. */
function book(): Row[] {
  const given =
    'Alba Bruno Chiara Dario Elsa Fergus Gwen Henk Isla Jonas Karin Luca Mila Nils Olga Piet Quentin Rosa Sven Tilda'.split(
      ' ',
    );
  const family =
    'Arkwright Bellweather Castellan Dunmore Eberhart Fairbairn Goldacre Hollander Inglewood Jarrow'.split(
      ' ',
    );
  const rows: Row[] = [];
  for (let at = 0; at < 200; at++) {
    const [first, last, firm] = [
      given[at % 20] ?? '',
      family[Math.floor(at / 20)] ?? '',
      `Firm ${'abcdefghijklmnopqrst'[at % 17]}${at % 17}`,
    ];
    const row = [
      first,
      last,
      `${first}.${last}@firm${at % 17}.example`.toLowerCase(),
      `+999 55 ${1_000_000 + at * 7919}`,
      firm,
      `P${at % 17} 1AA`,
      `Town ${at % 5}`,
    ];
    rows.push([`a${at}`, ...row]);
    if (at % 3 === 0)
      rows.push([
        `b${at}`,
        first,
        last.replace('r', ''),
        row[2] ?? '',
        '',
        `${firm} Ltd`,
        row[5] ?? '',
        row[6] ?? '',
      ]);
  }
  return rows;
}

describe('a plan', () => {
  it('knows which column names the rows, and what the others are compared as', () => {
    const rows = [
      ['C-001', 'Ines Duarte', '12 Mill Lane', 'A1 1AA', 'Braga', '1980-04-12', 'f'],
      ['C-002', 'Rui Reis', '9 Dock Road', 'B2 2BB', 'Porto', '1975-01-30', 'm'],
    ];
    const kinds = (head: string[]) => {
      const { idColumn, fields } = planOf(head, rows);
      return [idColumn, ...fields.map((field) => field.kind)];
    };
    const rest = ['given', 'family', 'street', 'postcode', 'city', 'date', 'text'];
    expect(kinds(['Customer', 'Name', 'Street', 'ZIP', 'Town', 'Born', 'Sex'])).toEqual([0, ...rest]);
    expect(
      kinds(['rec_id', 'full name', 'address_1', 'post_code', 'suburb', 'date_of_birth', 'sex']),
    ).toEqual([0, ...rest]);
  });
});

describe('linking a table', () => {
  const rows = book();
  const names = (pairs: readonly LinkedPair[], of: readonly Row[]): string[] =>
    pairs
      .filter((pair) => pair.probability >= 0.5)
      .map(({ a, b }) => [of[a]?.[0] ?? '', of[b]?.[0] ?? ''].sort().join('~'))
      .sort();
  it('finds those who are one and nobody else, without labels', () => {
    const expected = rows
      .flatMap(([id = '']) => (id.startsWith('b') ? [`a${id.slice(1)}~${id}`] : []))
      .sort();
    expect(names(linked(rows), rows)).toEqual(expected);
  });
  it('does not depend on the order of the rows', () => {
    const turned = [...rows].reverse();
    expect(names(linked(turned), turned)).toEqual(names(linked(rows), rows));
  });
  it('has nothing to say of a table of one row', () => expect(linked(rows.slice(0, 1))).toEqual([]));
});

describe('groups', () => {
  const odds = (list: readonly Edge[]) => (a: number, b: number) =>
    list.find((one) => one.a === a && one.b === b)?.logOdds ?? -6;
  const together = (edges: readonly Edge[]): number[][] => [
    ...new Set(
      groupUp(
        edges.filter((edge) => edge.logOdds > 0),
        odds(edges),
      ).values(),
    ),
  ];
  it('join three who are alike all round', () => {
    const edges = [
      { a: 1, b: 2, logOdds: 5 },
      { a: 2, b: 3, logOdds: 4 },
      { a: 1, b: 3, logOdds: -1 },
    ];
    expect(together(edges).map((one) => one.sort())).toEqual([[1, 2, 3]]);
  });
  it('do not join strangers at the ends of a chain', () => {
    const edges = [
      { a: 1, b: 2, logOdds: 6 },
      { a: 3, b: 4, logOdds: 6 },
      { a: 2, b: 3, logOdds: 1 },
    ];
    expect(together(edges).map((one) => one.sort())).toEqual([
      [1, 2],
      [3, 4],
    ]);
  });
});
