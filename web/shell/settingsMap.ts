import type { Place } from './map';

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
    name: 'Outreach',
    places: [
      {
        name: 'Consent and topics',
        to: '/settings/consent',
        also: 'purposes agreed subscriptions unsubscribe newsletter',
      },
      { name: 'Areas', to: '/settings/areas', also: 'map regions post codes subscriptions' },
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
