import type { Right } from '@emporikon/core/rights/rights';

/** Where everything is: the sections under the masthead and the places of each. */
export interface Place {
  name: string;
  to: string;
  /** Other words by which the find field knows it. */
  also?: string;
  /** What is opened in it has an address below it, and the place stays. */
  holds?: true;
  /** What it takes, where that is not what its section takes. */
  right?: Right;
}

export interface Section {
  name: string;
  to: string;
  /** Which of the live counts stands beside its name. */
  count: 'arrivals' | 'round' | 'leads' | 'deals' | null;
  places: readonly Place[];
  /** What its places take; those of nobody's are for everybody. */
  right?: Right;
  /** Where its records are, beside its places. */
  records?: readonly string[];
}

export const SECTIONS: readonly Section[] = [
  {
    name: 'Arrivals',
    to: '/arrivals',
    count: 'arrivals',
    right: 'captures.see',
    places: [
      { name: 'Inbox', to: '/arrivals', also: 'mail captures what came in', holds: true },
      { name: 'Calls', to: '/calls', also: 'phone' },
      { name: 'Forms', to: '/forms', also: 'web forms submissions', right: 'people.see' },
      { name: 'Import', to: '/imports', also: 'table csv excel vcard file' },
      {
        name: 'Set aside',
        to: '/arrivals/set-aside',
        also: 'not a lead refused newsletters',
        holds: true,
      },
      {
        name: 'Views',
        to: '/arrivals/views',
        also: 'views of captures filter group tone negative',
        holds: true,
      },
    ],
    records: ['/arrivals/', '/calls/', '/forms/', '/imports/'],
  },
  {
    name: 'Round',
    to: '/round',
    count: 'round',
    places: [
      { name: 'List', to: '/round', also: 'tasks day next moves today' },
      { name: 'Day', to: '/round/day', also: 'calendar today appointments' },
      { name: 'Week', to: '/round/week', also: 'calendar meetings appointments' },
      { name: 'Month', to: '/round/month', also: 'calendar' },
      { name: 'Agenda', to: '/round/agenda', also: 'calendar list meetings' },
      {
        name: 'Delegated',
        to: '/round/delegated',
        also: 'given to others hand over away',
        right: 'tasks.see',
      },
      {
        name: 'Task views',
        to: '/round/views',
        also: 'views of tasks overdue due this week',
        holds: true,
        right: 'tasks.see',
      },
      {
        name: 'History views',
        to: '/round/history',
        also: 'views of calls mails notes meetings ledger entries activity',
        holds: true,
        right: 'ledger.see',
      },
    ],
    records: ['/round/views/', '/round/history/'],
  },
  {
    name: 'Leads',
    to: '/leads',
    count: 'leads',
    right: 'leads.see',
    places: [
      { name: 'All leads', to: '/leads' },
      { name: 'Views', to: '/leads/views', also: 'views of leads filter group', holds: true },
      { name: 'Triage', to: '/leads/triage', also: 'sort strangers prospects', right: 'people.see' },
    ],
    records: ['/leads/'],
  },
  {
    name: 'People',
    to: '/people',
    count: null,
    right: 'people.see',
    places: [
      { name: 'All people', to: '/people', also: 'contacts' },
      {
        name: 'Views',
        to: '/people/views',
        also: 'views of people filter group spoken to today going quiet birthdays',
        holds: true,
      },
      { name: 'Triage', to: '/people/triage', also: 'sort strangers prospects' },
      { name: 'Look-alikes', to: '/people/look-alikes', also: 'duplicates merge' },
      { name: 'Look-ups', to: '/people/look-ups', also: 'enrich missing facts' },
    ],
    records: ['/people/'],
  },
  {
    name: 'Companies',
    to: '/companies',
    count: null,
    right: 'companies.see',
    places: [
      { name: 'All companies', to: '/companies', also: 'organisations accounts firms' },
      { name: 'Views', to: '/companies/views', also: 'views of companies filter group', holds: true },
      { name: 'Look-alikes', to: '/companies/look-alikes', also: 'duplicates merge' },
    ],
    records: ['/companies/'],
  },
  {
    name: 'Deals',
    to: '/deals',
    count: 'deals',
    right: 'deals.see',
    places: [
      { name: 'Lanes', to: '/deals', also: 'pipeline board' },
      { name: 'Table', to: '/deals/table', also: 'list of deals' },
      { name: 'Views', to: '/deals/views', also: 'views of deals filter group', holds: true },
      { name: 'Forecast', to: '/deals/forecast', also: 'pipeline value revenue' },
      { name: 'Projects', to: '/deals/projects', also: 'delivery after the deal', right: 'projects.see' },
      {
        name: 'Project views',
        to: '/deals/projects/views',
        also: 'views of projects due stage',
        holds: true,
        right: 'projects.see',
      },
      {
        name: 'Cases',
        to: '/deals/cases',
        also: 'trouble complaints support tickets',
        right: 'projects.see',
      },
      {
        name: 'Case views',
        to: '/deals/cases/views',
        also: 'views of cases overdue urgent',
        holds: true,
        right: 'projects.see',
      },
    ],
    records: ['/deals/', '/projects/', '/cases/'],
  },
  {
    name: 'Mailings',
    to: '/mailings/letters',
    count: null,
    right: 'ledger.add',
    places: [
      { name: 'Letters', to: '/mailings/letters', also: 'mail email drafts sent outbox scheduled' },
      { name: 'Templates', to: '/mailings/templates', also: 'letter templates text blocks shortcuts fields' },
    ],
    records: ['/letters/'],
  },
];

/** The sections that somebody's role includes, each with the places that it does. */
export const sectionsFor = (may: (right: Right) => boolean): Section[] =>
  SECTIONS.flatMap((section) => {
    const places = section.places.filter(({ right = section.right }) => !right || may(right));
    const [first] = places;
    if (!first) return [];
    return { ...section, places, to: places.some(({ to }) => to === section.to) ? section.to : first.to };
  });

const RIGHT_OF_RECORDS: Readonly<Record<string, Right>> = {
  '/projects/': 'projects.see',
  '/cases/': 'projects.see',
  '/calls/': 'ledger.see',
  '/forms/': 'people.see',
  '/letters/': 'ledger.add',
};

/** What it takes to see a page; null for those that are everybody's. */
export function rightFor(path: string): Right | null {
  const section = sectionOf(path);
  const place = placeOf(path);
  if (place) return place.right ?? section?.right ?? null;
  const records = Object.keys(RIGHT_OF_RECORDS).find((prefix) => path.startsWith(prefix));
  return (records && RIGHT_OF_RECORDS[records]) || section?.right || null;
}

/** The section a path belongs to; null for settings and pages outside of all sections. */
export const sectionOf = (path: string): Section | null =>
  SECTIONS.find(({ places }) => places.some(({ to }) => to === path)) ??
  SECTIONS.find(({ records = [] }) => records.some((prefix) => path.startsWith(prefix))) ??
  null;

/** The place of its section that a path is; null on the page of a record. */
export function placeOf(path: string): Place | null {
  const places = sectionOf(path)?.places ?? [];
  const holding = places
    .filter(({ to, holds }) => holds && path.startsWith(`${to}/`))
    .sort((a, b) => b.to.length - a.to.length);
  return places.find(({ to }) => to === path) ?? holding[0] ?? null;
}
