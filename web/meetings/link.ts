import type { LocationQuery } from 'vue-router';

/** What a new meeting begins with: a place in the calendar, somebody who comes, a deal. */
export interface BegunMeeting {
  start?: string;
  end?: string;
  with?: { id: string; name: string };
  deal?: { id: string; name: string };
}
const KEYS = ['meeting', 'start', 'end', 'withId', 'withName', 'dealId', 'dealName'];

/** The address of a page with a new meeting beside it. */
export const newMeeting = (query: LocationQuery, begun: BegunMeeting = {}): LocationQuery => ({
  ...query,
  meeting: 'new',
  ...(begun.start ? { start: begun.start } : {}),
  ...(begun.end ? { end: begun.end } : {}),
  ...(begun.with ? { withId: begun.with.id, withName: begun.with.name } : {}),
  ...(begun.deal ? { dealId: begun.deal.id, dealName: begun.deal.name } : {}),
});

/** The address of the page without it. */
export const withoutMeeting = (query: LocationQuery): LocationQuery =>
  Object.fromEntries(Object.entries(query).filter(([key]) => !KEYS.includes(key)));

/** What the address says a new meeting begins with. */
export function begunMeeting(query: LocationQuery): BegunMeeting {
  const said = (key: string): string => (typeof query[key] === 'string' ? query[key] : '');
  return {
    ...(said('start') ? { start: said('start') } : {}),
    ...(said('end') ? { end: said('end') } : {}),
    ...(said('withId') ? { with: { id: said('withId'), name: said('withName') } } : {}),
    ...(said('dealId') ? { deal: { id: said('dealId'), name: said('dealName') } } : {}),
  };
}
