import { placeOf, SECTIONS, sectionOf } from './map';
import { SETTINGS } from './settingsMap';

it.each([
  ['/arrivals', 'Arrivals', 'Inbox'],
  ['/arrivals/set-aside', 'Arrivals', 'Set aside'],
  ['/arrivals/0190-a', 'Arrivals', 'Inbox'],
  ['/arrivals/set-aside/0190-a', 'Arrivals', 'Set aside'],
  ['/calls', 'Arrivals', 'Calls'],
  ['/calls/new', 'Arrivals', null],
  ['/leads/triage', 'Leads', 'Triage'],
  ['/people/triage', 'People', 'Triage'],
  ['/companies/look-alikes', 'Companies', 'Look-alikes'],
  ['/people/0190-b', 'People', null],
  ['/deals/forecast', 'Deals', 'Forecast'],
  ['/settings/fit', null, null],
  ['/peoples', null, null],
])('%s belongs to the section %s, place %s', (path, section, place) => {
  expect(sectionOf(path)?.name ?? null).toBe(section);
  expect(placeOf(path)?.name ?? null).toBe(place);
});

it('gives every place an address of its own', () => {
  const all = [...SECTIONS.flatMap(({ places }) => places), ...SETTINGS.flatMap(({ places }) => places)];
  expect(new Set(all.map(({ to }) => to)).size).toBe(all.length);
});
