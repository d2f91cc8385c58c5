import type { RouteRecordRaw } from 'vue-router';
import { SETTINGS } from './map';

const FOR_ADMINS = new Set(
  SETTINGS.flatMap(({ places }) => places.filter(({ isForAdmins }) => isForAdmins)).map(({ to }) => to),
);

const settings = (path: string, title: string, component: () => Promise<object>): RouteRecordRaw => ({
  path,
  component,
  meta: { title, isForAdmins: FOR_ADMINS.has(`/settings/${path}`) },
});

/** A page for each entry of the index of Settings. */
export const SETTINGS_PAGES: RouteRecordRaw[] = [
  settings('profile', 'Profile and language', () => import('../settings/ProfileSettings.vue')),
  settings('phone-line', 'Phone line', () => import('../settings/PhoneSettings.vue')),
  settings('calendar', 'Calendar', () => import('../settings/CalendarSettings.vue')),
  settings('mailboxes', 'Mailboxes', () => import('../settings/MailboxSettings.vue')),
  settings('notices', 'Notices', () => import('../settings/NoticeSettings.vue')),
  settings('tokens', 'Clipper and tokens', () => import('../settings/TokenSettings.vue')),
  settings('sign-in', 'Sign-in', () => import('../settings/SignInSettings.vue')),
  settings('accounts', 'Accounts', () => import('../settings/UserSettings.vue')),
  settings('roles', 'Roles', () => import('../roles/RoleSettings.vue')),
  settings('teams', 'Teams', () => import('../settings/TeamSettings.vue')),
  settings('visibility', 'Who may see what', () => import('../visibility/VisibilitySettings.vue')),
  settings('fields', 'Fields', () => import('../settings/FieldSettings.vue')),
  settings('closed-days', 'Closed days', () => import('../settings/ClosedDays.vue')),
  settings('task-kinds', 'Kinds of tasks', () => import('../settings/TaskKinds.vue')),
  settings('relations', 'Relations', () => import('../relations/KindSettings.vue')),
  settings('fit', 'Fit', () => import('../qualifying/FitSheet.vue')),
  settings('warmth', 'Warmth', () => import('../qualifying/WarmthSettings.vue')),
  settings('rhythms', 'Rhythms', () => import('../settings/RhythmSettings.vue')),
  settings('win-chance', 'Win chance', () => import('../qualifying/WinChanceSettings.vue')),
  settings('lead-owners', 'Lead owners', () => import('../qualifying/OwnerSheet.vue')),
  settings('questions', 'Qualifying questions', () => import('../settings/QuestionSettings.vue')),
  settings('plans', 'Plans for prospects', () => import('../qualifying/PlanSheet.vue')),
  settings('accuracy', 'Reading accuracy', () => import('../accuracy/AccuracySettings.vue')),
  settings('pipelines', 'Pipelines and stages', () => import('../pipelines/PipelineSettings.vue')),
  settings('products', 'Products and prices', () => import('../pipelines/ProductSheet.vue')),
  settings('reasons', 'Why deals end', () => import('../pipelines/CloseReasons.vue')),
  settings('quotes', 'Quotes', () => import('../pipelines/QuoteSheet.vue')),
  settings('after-deals', 'Projects and cases', () => import('../settings/AfterDealSettings.vue')),
  settings('currencies', 'Currencies', () => import('../pipelines/RateSheet.vue')),
  settings('look-ups', 'Look-ups', () => import('../lookups/LookUpSettings.vue')),
  settings('servers', 'Your own servers', () => import('../settings/HostSettings.vue')),
  settings('files', 'Files', () => import('../settings/FileSettings.vue')),
  settings('tags', 'Tags, lists and sources', () => import('../tags/TagSettings.vue')),
  settings('terms', 'Standings, statuses and kinds', () => import('../terms/TermSettings.vue')),
  settings('privacy', 'Privacy', () => import('../privacy/PrivacySettings.vue')),
  settings('bulk', 'Bulk changes', () => import('../bulk/BulkPage.vue')),
  settings('exports', 'Exports', () => import('../exports/ExportsPage.vue')),
  settings('changes', 'Change history', () => import('../history/HistoryPage.vue')),
  settings('mappings', 'Where facts go', () => import('../settings/MappingSettings.vue')),
];
