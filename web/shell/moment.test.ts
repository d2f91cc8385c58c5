import '../testing/browser';
import { DateTime } from 'luxon';
import type { Me } from '@emporikon/contract/session';
import { useSession } from '../shell/session';
import { openPage, type Page } from '../testing/page';
import { fromField, toField } from './moment';

let page: Page;
beforeEach(() => (page = openPage()));
afterEach(() => page.close());
const live = (timeZone: string): void => void (useSession().me = { timeZone } as Me);

/** Luxon is the outside reference: what a clock in that zone shows at that moment. */
const shown = (iso: string, zone: string): string =>
  DateTime.fromISO(iso, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");

describe.each([
  'Europe/London',
  'America/New_York',
  'Asia/Kolkata',
  'Australia/Lord_Howe',
  'Pacific/Apia',
  'UTC',
])('on a clock in %s', (zone) => {
  beforeEach(() => live(zone));

  it.each([
    '2026-01-15T23:30:00.000Z',
    '2026-03-29T00:59:00.000Z',
    '2026-03-29T01:00:00.000Z',
    '2026-07-01T12:00:00.000Z',
    '2026-10-25T02:00:00.000Z',
    '2026-12-31T23:59:00.000Z',
  ])('%s stands in the field as that clock shows it, and comes back the same', (iso) => {
    expect(toField(iso, false)).toBe(shown(iso, zone));
    expect(toField(iso, true)).toBe(shown(iso, zone).slice(0, 10));
    expect(fromField(toField(iso, false), false)).toBe(iso);
  });
});

it('a day begins at midnight of the person, and no day is none', () => {
  live('America/New_York');
  expect(fromField('2026-11-27', true)).toBe('2026-11-27T05:00:00.000Z');
  expect(fromField('', true)).toBeNull();
  expect(fromField('soon', false)).toBeNull();
});
