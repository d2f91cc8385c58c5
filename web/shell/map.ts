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

export interface SettingsPlace extends Place {
  /** Only admins reach it. */
  isForAdmins?: true;
}

/** The index of Settings. */
export const SETTINGS: readonly { name: string; places: readonly SettingsPlace[] }[] = [
  {
    name: 'You',
    places: [
      { name: 'Profile and language', to: '/settings/profile', also: 'time zone locale dates theme' },
      { name: 'Phone line', to: '/settings/phone-line', also: 'number exchange' },
      { name: 'Calendar', to: '/settings/calendar', also: 'working hours subscribe ics feed' },
      { name: 'Mailboxes', to: '/settings/mailboxes', also: 'imap email' },
      { name: 'Sending mail', to: '/settings/sending', also: 'smtp outgoing server submission' },
      { name: 'Signature', to: '/settings/signature', also: 'letters below picture' },
      { name: 'Notices', to: '/settings/notices', also: 'notifications mail digest quiet hours reminders' },
      { name: 'Clipper and tokens', to: '/settings/tokens', also: 'api access browser extension' },
      { name: 'Sign-in', to: '/settings/sign-in', also: 'password sessions' },
    ],
  },
  {
    name: 'Organisation',
    places: [
      { name: 'Accounts', to: '/settings/accounts', also: 'users colleagues', isForAdmins: true },
      { name: 'Roles', to: '/settings/roles', also: 'rights permissions', isForAdmins: true },
      { name: 'Teams', to: '/settings/teams', also: 'managers members' },
      { name: 'Who may see what', to: '/settings/visibility', also: 'private restricted sharing' },
      { name: 'Fields', to: '/settings/fields', also: 'custom fields of your own' },
      { name: 'Closed days', to: '/settings/closed-days', also: 'holidays working days calendar' },
      { name: 'Kinds of tasks', to: '/settings/task-kinds', also: 'task types' },
      { name: 'Relations', to: '/settings/relations', also: 'kinds of relation reports to' },
    ],
  },
  {
    name: 'Scoring',
    places: [
      { name: 'Fit', to: '/settings/fit', also: 'qualifying rules points' },
      { name: 'Warmth', to: '/settings/warmth', also: 'engagement half-life' },
      { name: 'Rhythms', to: '/settings/rhythms', also: 'how often in touch going quiet' },
      { name: 'Win chance', to: '/settings/win-chance', also: 'model probability dropped leads' },
      { name: 'Lead owners', to: '/settings/lead-owners', also: 'assignment rules round robin' },
      { name: 'Qualifying questions', to: '/settings/questions' },
      { name: 'Plans for prospects', to: '/settings/plans', also: 'triage first move' },
      { name: 'Reading accuracy', to: '/settings/accuracy', also: 'confidence reader corrections' },
    ],
  },
  {
    name: 'Deals',
    places: [
      { name: 'Pipelines and stages', to: '/settings/pipelines', also: 'chances typical days' },
      { name: 'Products and prices', to: '/settings/products', also: 'price lists' },
      { name: 'Why deals end', to: '/settings/reasons', also: 'won lost reasons' },
      { name: 'Quotes', to: '/settings/quotes', also: 'pdf terms numbers' },
      { name: 'Currencies', to: '/settings/currencies', also: 'exchange rates' },
      {
        name: 'Projects and cases',
        to: '/settings/after-deals',
        also: 'stages promises answer times urgency',
      },
    ],
  },
  {
    name: 'Channels',
    places: [
      { name: 'Look-ups', to: '/settings/look-ups', also: 'allowance sources enrichment' },
      {
        name: 'Mail domains',
        to: '/settings/mail-domains',
        also: 'spf dkim dmarc dns sign',
        isForAdmins: true,
      },
      { name: 'Your own servers', to: '/settings/servers', also: 'hosts network', isForAdmins: true },
    ],
  },
  {
    name: 'Data',
    places: [
      { name: 'Files', to: '/settings/files', also: 'attachments documents size limits allowance scanner' },
      {
        name: 'Tags, lists and sources',
        to: '/settings/tags',
        also: 'rename merge colour labels sources of leads',
      },
      {
        name: 'Standings, statuses and kinds',
        to: '/settings/terms',
        also: 'rename standing lead status kind of company own',
      },
      { name: 'Where facts go', to: '/settings/mappings', also: 'mapping claims fields' },
      {
        name: 'Privacy',
        to: '/settings/privacy',
        also: 'erase forget personal data rights retention keeping times gdpr',
      },
      { name: 'Bulk changes', to: '/settings/bulk', also: 'bulk mass update undo progress' },
      { name: 'Exports', to: '/settings/exports', also: 'download csv xlsx vcard calendar files' },
      { name: 'Change history', to: '/settings/changes', also: 'audit log who changed what restore export' },
    ],
  },
];
