import fc from 'fast-check';
import { costOf, rankCauses, WEIGHTS, type Cause } from './ranking';
import { proposeRhythm, quietFrom, rhythmOf, usualWait, type RhythmRule } from './rhythm';

const NOW = '2026-11-27T12:00:00Z';
const cause = (over: Partial<Cause & { id: string }> = {}): Cause & { id: string } => ({
  id: 'a',
  kind: 'turn',
  about: 'ines',
  since: '2026-11-26T12:00:00Z',
  at: null,
  stake: 0,
  usualWait: null,
  isPromised: false,
  isImportant: false,
  priority: 'normal',
  times: 1,
  ...over,
});
const points = (over: Partial<Cause>): number => costOf(cause(over), NOW).points;
const order = (...causes: (Cause & { id: string })[]): string[] =>
  rankCauses(causes, NOW).map((line) => line.first.id);

describe('what waiting costs', () => {
  it('is the sum of its parts, each by its weight', () => {
    const { points: sum, parts } = costOf(cause({ stake: 900, isPromised: true, usualWait: 24 }), NOW);
    expect(parts.map(({ words, points }) => [words, points])).toEqual([
      ['It is our turn', 30],
      // One usual wait has passed: log2(1 + 1) = 1.
      ['How long they have waited, against what they usually wait', 6],
      // log10(1 + 900 / 100) = 1.
      ['Expected value at stake', 6],
      ['Promised', 10],
    ]);
    expect(sum).toBe(52);
  });

  it('whoever is used to an answer within the hour costs more after a day than whoever waits for a week', () => {
    expect(points({ usualWait: 1 })).toBeGreaterThan(points({ usualWait: 168 }));
  });

  it('never falls while the wait, the sum, the days overdue or the times grow, and no weight runs away', () => {
    const amount = fc.double({ min: 0, max: 1e9, noNaN: true });
    fc.assert(
      fc.property(amount, amount, (a, b) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)];
        const at = (hours: number): string =>
          new Date(Date.parse(NOW) - Math.min(hours, 1440) * 3.6e6).toISOString();
        expect(points({ stake: more })).toBeGreaterThanOrEqual(points({ stake: less }));
        expect(points({ since: at(more) })).toBeGreaterThanOrEqual(points({ since: at(less) }));
        expect(points({ kind: 'task', since: at(more) })).toBeGreaterThanOrEqual(
          points({ kind: 'task', since: at(less) }),
        );
        expect(points({ kind: 'quiet', times: more })).toBeGreaterThanOrEqual(
          points({ kind: 'quiet', times: less }),
        );
        expect(points({ stake: more }) - points({})).toBeLessThanOrEqual(WEIGHTS.stake.most);
      }),
    );
  });

  it('what has been owed for more than sixty days comes after what is owed since yesterday', () => {
    expect(points({ since: '2026-09-01T12:00:00Z' })).toBeLessThan(points({}));
    expect(points({ since: '2026-09-29T12:00:00Z' })).toBeGreaterThan(points({}));
  });

  it('an appointment within two hours comes before everything, one in the evening does not', () => {
    const big = cause({ id: 'big', stake: 100_000, isPromised: true });
    const at = (time: string) => cause({ id: 'call', kind: 'task', about: 'hamish', since: NOW, at: time });
    expect(order(big, at('2026-11-27T13:30:00Z'))).toEqual(['call', 'big']);
    expect(order(big, at('2026-11-27T18:00:00Z'))).toEqual(['big', 'call']);
  });

  it('goes by the kind where nothing else differs', () => {
    expect(
      order(
        ...(['quiet', 'stuck', 'task', 'new', 'turn'] as const).map((kind) =>
          cause({ id: kind, about: kind, kind, since: NOW }),
        ),
      ),
    ).toEqual(['turn', 'new', 'task', 'stuck', 'quiet']);
  });

  it('of one person there is one line, with the dearest reason first, but each task by itself', () => {
    const lines = rankCauses(
      [
        cause({ id: 'quiet', kind: 'quiet' }),
        cause({ id: 'turn' }),
        cause({ id: 'one', kind: 'task' }),
        cause({ id: 'two', kind: 'task' }),
      ],
      NOW,
    );
    expect(lines.map(({ first, besides }) => [first.id, besides.map(({ id }) => id)])).toEqual([
      ['turn', ['quiet']],
      ['one', []],
      ['two', []],
    ]);
    expect(lines[0]?.parts.at(-1)).toMatchObject({ words: 'What else is the case' });
  });

  it('is the same whatever order it is given in', () => {
    const causes = [...Array(20).keys()].map((at) =>
      cause({ id: `c${at}`, about: `p${at % 7}`, stake: (at % 3) * 1000, kind: at % 2 ? 'task' : 'turn' }),
    );
    fc.assert(
      fc.property(fc.shuffledSubarray(causes, { minLength: 20 }), (shuffled) => {
        expect(order(...shuffled)).toEqual(order(...causes));
      }),
    );
  });
});

describe('rhythm', () => {
  const RULES: RhythmRule[] = [
    { kind: 'standing', value: 'customer', days: 60 },
    { kind: 'tag', value: 'fair', days: 30 },
    { kind: 'tag', value: 'press', days: 14 },
  ];
  const of = (over: Partial<Parameters<typeof rhythmOf>[0]>) =>
    rhythmOf({ own: null, company: null, tags: [], standing: 'stranger', ...over }, RULES);
  it('the nearest rule holds', () => {
    const all = { own: 7, company: 21, tags: ['fair', 'press'], standing: 'customer' };
    expect(of(all)).toEqual({ days: 7, from: 'person' });
    expect(of({ ...all, own: null })).toEqual({ days: 21, from: 'company' });
    expect(of({ ...all, own: null, company: null })).toEqual({ days: 14, from: 'tag' });
    expect(of({ standing: 'customer' })).toEqual({ days: 60, from: 'standing' });
    expect(of({})).toBeNull();
  });
  it('is proposed from the past, where that shows one', () => {
    const every = (days: number, count: number): string[] =>
      [...Array(count).keys()].map((at) => new Date(Date.parse(NOW) - at * days * 86_400_000).toISOString());
    expect(proposeRhythm(every(20, 6))).toBe(21);
    expect(proposeRhythm(every(33, 4))).toBe(30);
    expect(proposeRhythm(every(20, 3))).toBeNull();
    expect(proposeRhythm([...every(20, 6), ...every(20, 6)])).toBe(21);
    expect(proposeRhythm([])).toBeNull();
  });
  it('somebody is quiet so many days after the last word, or after we knew them', () => {
    const rhythm = of({ standing: 'customer' });
    expect(quietFrom(rhythm, '2026-09-01T10:00:00.000Z', '2026-01-01T00:00:00.000Z')).toBe(
      '2026-10-31T10:00:00.000Z',
    );
    expect(quietFrom(rhythm, null, '2026-01-01T00:00:00.000Z')).toBe('2026-03-02T00:00:00.000Z');
    expect(quietFrom(null, '2026-09-01T10:00:00.000Z', NOW)).toBeNull();
  });
});

describe('how long somebody usually waits for us', () => {
  const said = (...words: string[]) =>
    words.map((word) => {
      const [side = 'ours', day = '1'] = word.split(' ');
      return { side: side as 'ours' | 'theirs' | 'within', at: `2026-11-${day.padStart(2, '0')}T00:00:00Z` };
    });
  it('is the median from their first unanswered word to our next', () => {
    expect(
      usualWait(said('theirs 1', 'theirs 2', 'ours 3', 'theirs 5', 'within 6', 'ours 6', 'theirs 9')),
    ).toBe(36);
    expect(usualWait(said('ours 1', 'theirs 2'))).toBeNull();
    expect(usualWait([])).toBeNull();
  });
});
