import type { RouteRecordRaw } from 'vue-router';
import { SETTINGS } from './settingsMap';

const PLACES = new Map(SETTINGS.flatMap(({ places }) => places).map((place) => [place.to, place]));

/** The page of an entry, with the title it has in the index. */
function settings(path: string, component: () => Promise<object>): RouteRecordRaw {
  const place = PLACES.get(`/settings/${path}`);
  return { path, component, meta: { title: place?.name, isForAdmins: place?.isForAdmins === true } };
}

/** A page for each entry of the index of Settings. */
export const SETTINGS_PAGES: RouteRecordRaw[] = [
  settings('profile', () => import('../settings/ProfileSettings.vue')),
  settings('phone-line', () => import('../settings/PhoneSettings.vue')),
  settings('calendar', () => import('../settings/CalendarSettings.vue')),
  settings('mailboxes', () => import('../settings/MailboxSettings.vue')),
  settings('sending', () => import('../letters/SubmissionSettings.vue')),
  settings('signature', () => import('../letters/SignatureSettings.vue')),
  settings('notices', () => import('../settings/NoticeSettings.vue')),
  settings('tokens', () => import('../settings/TokenSettings.vue')),
  settings('sign-in', () => import('../settings/SignInSettings.vue')),
  settings('accounts', () => import('../settings/UserSettings.vue')),
  settings('roles', () => import('../roles/RoleSettings.vue')),
  settings('teams', () => import('../settings/TeamSettings.vue')),
  settings('visibility', () => import('../visibility/VisibilitySettings.vue')),
  settings('fields', () => import('../settings/FieldSettings.vue')),
  settings('closed-days', () => import('../settings/ClosedDays.vue')),
  settings('task-kinds', () => import('../settings/TaskKinds.vue')),
  settings('relations', () => import('../relations/KindSettings.vue')),
  settings('fit', () => import('../qualifying/FitSheet.vue')),
  settings('warmth', () => import('../qualifying/WarmthSettings.vue')),
  settings('rhythms', () => import('../settings/RhythmSettings.vue')),
  settings('win-chance', () => import('../qualifying/WinChanceSettings.vue')),
  settings('lead-owners', () => import('../qualifying/OwnerSheet.vue')),
  settings('questions', () => import('../settings/QuestionSettings.vue')),
  settings('plans', () => import('../qualifying/PlanSheet.vue')),
  settings('accuracy', () => import('../accuracy/AccuracySettings.vue')),
  settings('pipelines', () => import('../pipelines/PipelineSettings.vue')),
  settings('products', () => import('../pipelines/ProductSheet.vue')),
  settings('reasons', () => import('../pipelines/CloseReasons.vue')),
  settings('quotes', () => import('../pipelines/QuoteSheet.vue')),
  settings('after-deals', () => import('../settings/AfterDealSettings.vue')),
  settings('currencies', () => import('../pipelines/RateSheet.vue')),
  settings('look-ups', () => import('../lookups/LookUpSettings.vue')),
  settings('mail-domains', () => import('../letters/DomainSettings.vue')),
  settings('servers', () => import('../settings/HostSettings.vue')),
  settings('consent', () => import('../consent/ConsentSettings.vue')),
  settings('areas', () => import('../consent/AreaSettings.vue')),
  settings('files', () => import('../settings/FileSettings.vue')),
  settings('tags', () => import('../tags/TagSettings.vue')),
  settings('terms', () => import('../terms/TermSettings.vue')),
  settings('privacy', () => import('../privacy/PrivacySettings.vue')),
  settings('bulk', () => import('../bulk/BulkPage.vue')),
  settings('exports', () => import('../exports/ExportsPage.vue')),
  settings('changes', () => import('../history/HistoryPage.vue')),
  settings('mappings', () => import('../settings/MappingSettings.vue')),
];
