import type { RoundCause } from '@emporikon/contract/round';
import type { Me } from '@emporikon/contract/session';
import { createPinia, setActivePinia } from 'pinia';
import { useSession } from '../shell/session';
import { besidesWords, minutesWords, reasonWords, waitWords } from './words';

beforeEach(() => {
  setActivePinia(createPinia());
  useSession().me = { locale: 'en-GB', timeZone: 'UTC' } as Me;
});
const cause = (over: Partial<RoundCause>): RoundCause => ({
  kind: 'turn',
  key: 'turn:x',
  since: '2026-01-05T17:16:00Z',
  because: '',
  task: null,
  case: null,
  isAsked: false,
  days: null,
  usualDays: null,
  stage: null,
  hasNextMove: true,
  ...over,
});
const words = (over: Partial<RoundCause>, wait: number | null = null): string => {
  const { strong, rest } = reasonWords(cause(over), wait);
  return `${strong}${rest}`;
};

it.each([
  [
    { because: 'they asked for the quote.' },
    6,
    /^Our turn since .*: they asked for the quote\. They usually hear from us within 6 hours\.$/,
  ],
  [{ because: 'they asked: which one?' }, null, /: they asked: which one\?$/],
  [{}, null, /^Our turn since [^:]*\.$/],
  [
    { kind: 'case', case: { id: 'x', name: 'No lights', urgency: 'normal', late: null } },
    null,
    /^They wait for help\. Promised by .*\.$/,
  ],
  [
    { kind: 'case', case: { id: 'x', name: 'No lights', urgency: 'urgent', late: 'solution' } },
    null,
    /^A solution was promised by .*\.$/,
  ],
  [
    { kind: 'stuck', days: 31, usualDays: 12, stage: 'Heard out', hasNextMove: false },
    null,
    /^Stuck: 31 days in Heard out, usual are 12\. No next move\.$/,
  ],
  [
    { kind: 'quiet', days: 34, usualDays: 21 },
    null,
    /^Going quiet: 34 days without a word; you plan to speak every 21 days\.$/,
  ],
  [
    { kind: 'quiet', days: 1, usualDays: 7 },
    null,
    /^Going quiet: 1 day without a word; you plan to speak every week\.$/,
  ],
  [{ kind: 'new' }, null, /^Nobody has spoken to them for \d+ days\.$/],
] as [Partial<RoundCause>, number | null, RegExp][])('%o is said as %s', (over, wait, said) => {
  expect(words(over, wait)).toMatch(said);
});

it('says times roundly', () => {
  expect([0.4, 5, 26, 50].map(waitWords)).toEqual(['an hour', '5 hours', 'a day', '2 days']);
  expect([0, 8, 60, 110].map(minutesWords)).toEqual(['0 min', '8 min', '1 h', '1 h 50 min']);
  expect(besidesWords({ besides: [cause({ kind: 'quiet' }), cause({ kind: 'stuck', days: 31 })] })).toBe(
    'Going quiet, the deal is stuck for 31 days',
  );
});
