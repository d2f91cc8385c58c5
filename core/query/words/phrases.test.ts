import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { checkQuery } from '../check';
import { describe as inWords } from '../describe';
import { OPERATORS } from '../operators';
import { registryWith } from '../registry/index';
import type { Asking, FieldType, RecordKind } from '../types';
import { asQuery, readQuestion } from './read';
import type { Vocabulary } from './state';

const options = (...values: string[]) => values.map((value) => ({ value, label: value }));
const FIELD_TYPES = Object.keys(OPERATORS) as FieldType[];
const registry = registryWith({ options: { 'deal.stage': options('Heard out', 'Proposal', 'Negotiation') } });
const vocabulary: Vocabulary = {
  users: [
    { value: 'pell', label: 'Pell Garrick' },
    { value: 'ines', label: 'Ines Tolland' },
    { value: 'mara', label: 'Mara Quill' },
  ],
  values: {
    industry: options('Bakery', 'Courier', 'Catering'),
    tags: options('vip', 'trade fair', 'bakery'),
    source: options('Referral', 'Web form', 'Trade fair'),
    city: options('Lisbon', 'Porto', 'Cork'),
    jobTitle: options('Owner', 'Head of Deliveries', 'Buyer'),
    companyName: options('Padaria Sol'),
    team: options('South'),
  },
  perUnit: 100,
};
/** A Tuesday. */
const asking: Asking = { now: '2026-11-24T10:00:00Z', zone: 'UTC', me: 'pell', team: [] };
const read = (phrase: string) => readQuestion(phrase, { registry, vocabulary, asking, hint: 'person' });
const wording = { locale: 'en-GB', money: (minor: number) => `€${minor / 100}` };

/** A question as the labels have it: kind, conditions, groups, order, what was not understood. */
function asLabel(phrase: string): string {
  const { kind, conditions, groups, order, notUnderstood } = read(phrase);
  const spec = registry[kind];
  const said = conditions.map((condition) => {
    const { caption, value } = inWords(condition, spec, registry, wording);
    return caption ? `${caption}: ${value}` : value;
  });
  return [
    kind,
    said.join('; '),
    groups
      .map(({ field, by }) => (by ? `${field} by ${JSON.stringify(by).replaceAll('"', '')}` : field))
      .join(', '),
    order.map(({ field, direction }) => `${field} ${direction}`).join(', '),
    notUnderstood.join('; '),
  ]
    .join(' | ')
    .trim();
}

const labelled = readFileSync(join(__dirname, 'phrases.txt'), 'utf8')
  .split('\n')
  .filter((line) => line && !line.startsWith('#'))
  .map((line) => line.split(' => ') as [string, string]);

it('has enough of them to say something', () => expect(labelled.length).toBeGreaterThanOrEqual(200));
it.each(labelled)('%s', (phrase, label) => expect(asLabel(phrase)).toBe(label));

it('reads anything at all into questions that can be asked, and what it leaves is of the text', () => {
  const ownFields = FIELD_TYPES.map((type) => ({
    key: `own_${type}`,
    label: `Own ${type}`,
    type,
    ...(type === 'choice' && { options: options('Left', 'Right') }),
  }));
  const kinds = Object.keys(registry) as RecordKind[];
  const withOwn = registryWith({ fields: Object.fromEntries(kinds.map((kind) => [kind, ownFields])) });
  const labels = kinds.flatMap((kind) => [...withOwn[kind].fields.values()].map(({ label }) => label));
  const joint = ['sorted by', 'grouped by', 'then by', 'and', 'or', 'without', 'not', 'with', 'before', 'in'];
  const word = fc.oneof(
    fc.constantFrom(...labelled.flatMap(([phrase]) => phrase.split(' '))),
    fc.constantFrom(...joint),
    fc.constantFrom(...labels),
    fc.constantFrom(...labelled.map(([phrase]) => phrase)),
    fc.string({ maxLength: 8, unit: 'grapheme' }),
  );
  fc.assert(
    fc.property(fc.array(word, { maxLength: 14 }), fc.constantFrom(...kinds), (parts, hint) => {
      const text = parts.join(' ');
      const question = readQuestion(text, { registry: withOwn, vocabulary, asking, hint });
      expect(checkQuery(asQuery(question), withOwn)).toEqual([]);
      for (const missed of question.notUnderstood) expect(text).toContain(missed);
    }),
    { numRuns: 2000 },
  );
});

it.each([
  ['people sorted by tags', [], ['sorted', 'tags']],
  ['people sorted by city and tags', ['city'], ['tags']],
  ['people sorted by city then', ['city'], ['then']],
])('%s: sorts by what can be sorted by, and says what it left out', (phrase, fields, left) => {
  const { order, notUnderstood } = read(phrase);
  expect(order.map(({ field }) => field)).toEqual(fields);
  for (const word of left) expect(notUnderstood.join(' ')).toContain(word);
});

it.each([
  ['grouped by city '.repeat(9), 'groups', 4],
  ['sorted by city '.repeat(9), 'order', 6],
  ['in Portugal without jobs in Lisbon or not in Cork '.repeat(40), 'conditions', 60],
] as const)('asks no more than can be asked: %s', (phrase, part, most) => {
  const question = read(phrase);
  expect(question[part].length).toBeLessThanOrEqual(most);
  expect(question[part].length).toBeGreaterThan(1);
  expect(question.notUnderstood.length).toBeGreaterThan(0);
  expect(checkQuery(asQuery(question), registry)).toEqual([]);
});

it('leaves a "not" out with what it was said of', () => {
  const full = 'people '.concat('in Portugal without jobs in Lisbon or not in Cork '.repeat(40));
  const { conditions, notUnderstood } = read(`${full} not in Porto tagged vip`);
  expect(JSON.stringify(conditions)).not.toContain('vip');
  expect(notUnderstood.join(' ')).toMatch(/not in Porto/);
});

it('answers in no time, whatever was typed', () => {
  const long = 'not not without or and in the last '.repeat(300);
  const start = process.cpuUsage();
  read(long);
  // One pass over the words; anything that looked back over all of them would take minutes.
  expect(process.cpuUsage(start).user / 1e6).toBeLessThan(5);
});

it.each([
  ['hot prospects', 'person', 'standing', ['hot']],
  ['prospects', 'person', 'standing', ['prospect', 'hot']],
  ['regulars', 'person', 'standing', ['customer']],
  ['customers', 'person', 'standing', ['customer']],
  ['leads with status demo booked', 'lead', 'status', ['demo']],
  ['demo booked leads', 'lead', 'status', ['demo']],
  ['open leads', 'lead', 'status', ['new', 'working', 'qualified', 'demo']],
  ['working leads', 'lead', 'status', ['working', 'demo']],
])(
  'where an organisation has terms of its own, “%s” asks for all that count as it',
  (phrase, kind, field, value) => {
    const own = registryWith({
      options: {
        'person.standing': [
          ...options('prospect', 'partner'),
          { value: 'hot', label: 'Hot prospect', countsAs: 'prospect' },
          { value: 'customer', label: 'Regular', countsAs: 'customer' },
        ],
        'lead.status': [
          ...options('new', 'working', 'qualified', 'converted'),
          { value: 'demo', label: 'Demo booked', countsAs: 'working' },
        ],
      },
    });
    const said = readQuestion(phrase, { registry: own, vocabulary, asking, hint: 'person' });
    expect([said.kind, said.conditions, said.notUnderstood]).toEqual([
      kind,
      [{ field, op: 'is', value }],
      [],
    ]);
  },
);
