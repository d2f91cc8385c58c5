import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { checkQuery } from '../check';
import { describe as inWords } from '../describe';
import { registryWith } from '../registry/index';
import type { Asking } from '../types';
import { asQuery, readQuestion } from './read';
import type { Vocabulary } from './state';

const options = (...values: string[]) => values.map((value) => ({ value, label: value }));
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
  const word = fc.oneof(
    fc.constantFrom(...labelled.flatMap(([phrase]) => phrase.split(' '))),
    fc.string({ maxLength: 8, unit: 'grapheme' }),
  );
  fc.assert(
    fc.property(fc.array(word, { maxLength: 14 }), (parts) => {
      const text = parts.join(' ');
      const question = read(text);
      expect(checkQuery(asQuery(question), registry)).toEqual([]);
      for (const missed of question.notUnderstood) expect(text).toContain(missed);
    }),
    { numRuns: 2000 },
  );
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
