import fc from 'fast-check';
import { jaro, jaroWinkler } from '../similarity';
import { candidatePairs } from './blocks';
import { compete } from './compete';
import { groupUp, type Edge } from './groups';
import { JELLYFISH } from './jellyfish.fixture';
import { likelyEdges, linkedPairs, type LinkedPair } from './link';
import { probabilityOf, fitted, type Examples } from './learn';
import { grown, modelFrom, rateOf, shippedModel, taught, USUAL_RATE } from './model';
import { FEATURE_NAMES, FEATURES } from './vector';
import { planOf } from './plan';
import { featuresOf, HEAD, type Row } from './testing';
import { Dictionary, isAsAlike, isOneSlip } from './strings';

function linked(rows: readonly Row[], head = HEAD): LinkedPair[] {
  const features = featuresOf(rows, head);
  return linkedPairs(features, likelyEdges(features, candidatePairs(features)));
}

describe('packed strings', () => {
  // Source: python3-jellyfish of Debian. It raises for the common prefix only what is likelier than 0.7.
  it.each(JELLYFISH)('%s and %s are as alike as jellyfish says', (a, b, plain, winkler) => {
    const words = new Dictionary();
    const [one, two] = [words.add(a), words.add(b)];
    expect(jaro(a, b)).toBeCloseTo(plain, 4);
    if (plain <= 0.7) return;
    expect(isAsAlike(words.pack(), one, two, winkler - 1e-3)).toBe(true);
    expect(isAsAlike(words.pack(), one, two, winkler + 1e-3)).toBe(a === b);
  });

  it('are not thought unlike by their letters alone where they are alike', () => {
    const word = fc.string({ unit: fc.constantFrom(...'abcdeö王иA '), minLength: 1, maxLength: 12 });
    const part = fc.tuple(word, fc.nat(3)).map(([text, at]) => text.slice(at) + text.slice(0, at));
    fc.assert(
      fc.property(word, fc.oneof(word, part), (a, b) => {
        const words = new Dictionary();
        const [one, two] = [words.add(a), words.add(b)];
        for (const least of [0.85, 0.92])
          if (Math.abs(jaroWinkler(a, b) - least) > 1e-9)
            expect(isAsAlike(words.pack(), one, two, least)).toBe(jaroWinkler(a, b) >= least);
      }),
      { numRuns: 2000 },
    );
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
  const randomOf = (seed: number) => {
    let state = seed;
    return (): number => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  };
  /** Pairs whose chance is known, of three features. */
  function known(weights: readonly number[], intercept: number, size: number): Examples {
    const random = randomOf(7);
    const examples: Examples = { vectors: [], same: [], before: [] };
    for (let pair = 0; pair < size; pair++) {
      const vector = new Float64Array(FEATURES);
      weights.forEach((_, at) => (vector[at] = random() < 0.5 ? 1 : 0));
      const odds = weights.reduce((sum, weight, at) => sum + weight * (vector[at] ?? 0), intercept);
      examples.vectors.push(vector);
      examples.same.push(random() < probabilityOf(odds) ? 1 : 0);
      examples.before.push(0);
    }
    return examples;
  }
  const start = new Float64Array(FEATURES + 1);

  // Source: Hosmer & Lemeshow, "Applied Logistic Regression": of one feature that is there or not, the weight is the logarithm of
  // the ratio of the odds of the two, and the intercept the logarithm of the odds where it is not there.
  it('are the logarithm of the ratio of the odds where there is one feature', () => {
    const there = new Float64Array(FEATURES);
    there[0] = 1;
    const of = (vector: Float64Array, same: number, times: number) =>
      Array.from({ length: times }, () => ({ vector, same }));
    const none = new Float64Array(FEATURES);
    const all = [...of(there, 1, 30), ...of(there, 0, 10), ...of(none, 1, 12), ...of(none, 0, 48)];
    const weights = fitted(
      { vectors: all.map((one) => one.vector), same: all.map((one) => one.same), before: all.map(() => 0) },
      start,
      1e-6,
    );
    expect(weights[FEATURES]).toBeCloseTo(Math.log(12 / 48), 3);
    expect(weights[0]).toBeCloseTo(Math.log(30 / 10) - Math.log(12 / 48), 3);
  });
  it('are found again in pairs made with known ones', () => {
    const weights = fitted(known([2, -1.5, 0.5], -0.4, 20_000), start, 1);
    [2, -1.5, 0.5].forEach((weight, at) => expect(Math.abs((weights[at] ?? 0) - weight)).toBeLessThan(0.12));
    expect(Math.abs((weights[FEATURES] ?? 0) + 0.4)).toBeLessThan(0.12);
  });
  it('stay where they are when there is nothing to learn from, and move with what reps answer', () => {
    expect(taught(shippedModel(), { vectors: [], same: [], before: [] })).toBe(shippedModel());
    const at = FEATURE_NAMES.indexOf('numberAnotherOfTheirOwn');
    const vector = new Float64Array(FEATURES);
    vector[at] = 1;
    const answers = (isSame: number) => ({
      vectors: Array.from({ length: 40 }, () => vector),
      same: Array.from({ length: 40 }, () => isSame),
      before: Array.from({ length: 40 }, () => 0),
    });
    const before = shippedModel().linear[at] ?? 0;
    expect(taught(shippedModel(), answers(1)).linear[at]).toBeGreaterThan(before);
    expect(taught(shippedModel(), answers(0)).linear[at]).toBeLessThanOrEqual(before);
  });
  it('of a tree are those at the end of its questions', () => {
    const { trees } = modelFrom({
      intercept: 0,
      linear: [],
      nodes: 7,
      trees: 1,
      splits: [0, 2, 0.5, 2, 0, 1],
      leaves: [1, -3, 5, 4, 6, 9],
    });
    const of = (first: number, third: number) => {
      const vector = new Float64Array(FEATURES);
      [vector[0], vector[2]] = [first, third];
      return grown(trees, vector);
    };
    expect([of(0, 0), of(1, 1), of(2, 1)]).toEqual([-3, 4, 9]);
  });
  it('are shifted to how many doubles a table has', () => {
    const odds = [...Array.from({ length: 60 }, () => 8), ...Array.from({ length: 900 }, () => -6)];
    expect(rateOf(odds, 1000)).toBeCloseTo(0.06, 2);
    expect(rateOf(odds, 1000)).toBeLessThan(USUAL_RATE);
    expect(rateOf([], 1000)).toBeGreaterThan(0);
  });
});

describe('rivals', () => {
  const edges = [
    { a: 0, b: 1, logOdds: 5 },
    { a: 0, b: 2, logOdds: 5 },
  ];
  const [alone] = edges;
  it('leave neither sure where they contradict each other', () => {
    const weighed = compete(edges, () => 8);
    for (const edge of weighed) expect(Math.abs(edge.logOdds)).toBeLessThan(0.1);
  });
  it('are no rivals where nothing speaks against their being one', () =>
    expect(compete(edges, () => 0)).toEqual(edges));
  it('are none to who stands alone', () => expect(compete(alone ? [alone] : [], () => 8)).toEqual([alone]));
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
