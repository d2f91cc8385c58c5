import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readNote } from './read';

/** What three houses sell, as they call it. */
const TRADES: Record<string, readonly string[]> = {
  'a house that sells bikes': [
    'Long bike',
    'Trike',
    'Trailer',
    'Lastenrad',
    'Lastenvelo',
    'Rad',
    'Anhänger',
    'Vélo',
    'Remorque',
    'Triporteur',
    'Bici',
    'Remolque',
    'Bicicleta',
    'Triciclo',
    'Cargo bike',
    'Bakfiets',
    'Cykel',
    'Rower',
  ],
  'a house that maintains lifts': ['Lift', 'Elevator', 'Aufzug', 'Ascenseur', 'Ascensor'],
  'a house that sells software': ['Licence', 'License', 'Seat', 'Lizenz', 'Licenza', 'Licentie'],
  'a house that sells cut flowers': ['Stem', 'Rose', 'Tallo', 'Haste', 'Stelo'],
};
/** The notes that are built with and fitted with; those that measure stay unseen. */
const notes = ['training', 'fitting'].flatMap((part) =>
  readFileSync(join(__dirname, '../labelled/notes', `${part}.txt`), 'utf8')
    .split(/^### /m)
    .slice(1)
    .map((section) => {
      const [head = '', ...lines] = section.split('\n');
      const [id = '', country = ''] = head.split(' | ');
      return {
        id,
        country,
        counts: lines.flatMap((line) => /^! quantity (\d+)$/.exec(line)?.[1] ?? []),
        text: lines
          .filter((line) => !/^[@!] /.test(line))
          .join('\n')
          .trim(),
      };
    }),
);
const read = (text: string, country: string, goods: readonly string[]) =>
  readNote(text, { at: '2026-11-24T10:00:00+00:00', zone: 'Europe/London', country, goods }).intents.flatMap(
    (intent) => (intent.kind === 'quantity' ? [{ ...intent.value, confidence: intent.confidence }] : []),
  );

describe.each(Object.entries(TRADES))('%s', (_, goods) => {
  const stems = goods.map((name) => name.toLowerCase().split(' ').at(-1)?.slice(0, 4) ?? '');
  const own = notes.filter(({ text, counts }) => {
    const words = text.toLowerCase().split(/[^\p{L}]+/u);
    return counts.length > 0 && stems.some((stem) => words.some((word) => word.startsWith(stem)));
  });

  it('has some of the labelled notes', () => expect(own.length).toBeGreaterThanOrEqual(3));
  it('reads how much of its goods they speak of, as surely as any', () => {
    const missed = own.filter(({ text, country, counts }) => {
      const found = read(text, country, goods);
      return !counts.every((count) =>
        found.some((one) => String(one.count) === count && one.confidence >= 0.9),
      );
    });
    expect(missed.map(({ id }) => id)).toEqual([]);
  });
});
