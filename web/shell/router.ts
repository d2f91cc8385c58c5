import { createRouter, createWebHistory, type RouteLocation } from 'vue-router';
import { VIEWED, VIEWED_KINDS } from '../views/kinds';
import { rightFor, sectionsFor } from './map';
import { useUndo } from './undo';
import { useSession } from './session';
import { SETTINGS_PAGES } from './settingsRoutes';

const DEALS = (): Promise<object> => import('../deals/PipelinePage.vue');
const TRIAGE = (): Promise<object> => import('../triage/TriagePage.vue');
const LOOK_ALIKES = (): Promise<object> => import('../lookalikes/LookAlikesPage.vue');

/** Addresses of before, which may stand in somebody's bookmarks. */
const MOVED: Record<string, string> = {
  '/triage': '/people/triage',
  '/look-alikes': '/people/look-alikes',
  '/look-ups': '/people/look-ups',
  '/forecast': '/deals/forecast',
  '/pipelines': '/settings/pipelines',
  '/qualifying': '/settings/fit',
};

const [TRIES, PAUSE_MS] = [20, 50];
/** The place where the page was left, once what it shows is there again. */
async function whenTall<Place extends { top: number }>(place: Place): Promise<Place> {
  for (let tries = 0; tries < TRIES; tries++) {
    if (document.documentElement.scrollHeight >= place.top + innerHeight) break;
    await new Promise((done) => setTimeout(done, PAUSE_MS));
  }
  return place;
}

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (to, from, saved) => (saved ? whenTall(saved) : to.path === from.path ? false : { top: 0 }),
  routes: [
    { path: '/', redirect: '/arrivals' },
    ...Object.entries(MOVED).map(([path, to]) => ({
      path,
      redirect: (from: RouteLocation) => ({ path: to, query: from.query }),
    })),
    {
      path: '/codes-first',
      component: () => import('../settings/CodeFirst.vue'),
      meta: { title: 'Set up codes at sign-in' },
    },
    { path: '/sign-in', component: () => import('./SignIn.vue'), meta: { open: true, title: 'Sign in' } },
    {
      path: '/forgot',
      component: () => import('./ForgotPassword.vue'),
      meta: { open: true, title: 'New password' },
    },
    {
      path: '/new-password',
      component: () => import('./NewPassword.vue'),
      meta: { open: true, title: 'New password' },
    },
    {
      path: '/arrivals/set-aside/:id?',
      component: () => import('../arrivals/ArrivalsPage.vue'),
      meta: { title: 'Set aside' },
    },
    {
      path: '/arrivals/:id?',
      component: () => import('../arrivals/ArrivalsPage.vue'),
      meta: { title: 'Arrivals' },
    },
    { path: '/round', component: () => import('../round/RoundPage.vue'), meta: { title: 'Round' } },
    {
      path: '/round/delegated',
      component: () => import('../round/DelegatedPage.vue'),
      meta: { title: 'Delegated' },
    },
    ...(['day', 'week', 'month', 'agenda'] as const).map((span) => ({
      path: `/round/${span}`,
      component: () => import('../meetings/CalendarPage.vue'),
      props: { span },
      meta: { title: 'Calendar' },
    })),
    ...VIEWED_KINDS.map((kind) => ({
      path: `${VIEWED[kind].views}/:view?`,
      component: () => import('../views/ViewPage.vue'),
      props: { kind },
      meta: { title: 'Views' },
    })),
    { path: '/leads', component: () => import('../leads/LeadsPage.vue'), meta: { title: 'Leads' } },
    { path: '/leads/triage', component: TRIAGE, meta: { title: 'Triage' } },
    {
      path: '/leads/:id',
      component: () => import('../leads/LeadPage.vue'),
      props: true,
      meta: { title: 'Lead' },
    },
    { path: '/people', component: () => import('../people/PeoplePage.vue'), meta: { title: 'People' } },
    { path: '/people/triage', component: TRIAGE, meta: { title: 'Triage' } },
    { path: '/people/look-alikes', component: LOOK_ALIKES, meta: { title: 'Look-alikes' } },
    {
      path: '/people/look-ups',
      component: () => import('../lookups/LookUpsPage.vue'),
      meta: { title: 'Look-ups' },
    },
    {
      path: '/people/:id',
      component: () => import('../people/PersonPage.vue'),
      props: true,
      meta: { title: 'Person' },
    },
    {
      path: '/companies',
      component: () => import('../companies/CompaniesPage.vue'),
      meta: { title: 'Companies' },
    },
    { path: '/companies/look-alikes', component: LOOK_ALIKES, meta: { title: 'Look-alikes' } },
    {
      path: '/companies/:id',
      component: () => import('../companies/CompanyPage.vue'),
      props: true,
      meta: { title: 'Company' },
    },
    { path: '/deals', component: DEALS, meta: { title: 'Deals' } },
    { path: '/deals/table', component: DEALS, meta: { title: 'Deals' } },
    {
      path: '/deals/forecast',
      component: () => import('../forecast/ForecastPage.vue'),
      meta: { title: 'Forecast' },
    },
    {
      path: '/deals/projects',
      component: () => import('../projects/ProjectsPage.vue'),
      meta: { title: 'Projects' },
    },
    {
      path: '/deals/cases',
      component: () => import('../cases/CasesPage.vue'),
      meta: { title: 'Cases' },
    },
    {
      path: '/projects/:id',
      component: () => import('../projects/ProjectPage.vue'),
      props: true,
      meta: { title: 'Project' },
    },
    {
      path: '/cases/:id',
      component: () => import('../cases/CasePage.vue'),
      props: true,
      meta: { title: 'Case' },
    },
    {
      path: '/deals/:id',
      component: () => import('../deals/DealPage.vue'),
      props: true,
      meta: { title: 'Deal' },
    },
    { path: '/mailings', redirect: '/mailings/letters' },
    {
      path: '/mailings/letters',
      component: () => import('../letters/LettersPage.vue'),
      meta: { title: 'Letters' },
    },
    {
      path: '/mailings/templates',
      component: () => import('../letters/TemplatesPage.vue'),
      meta: { title: 'Templates' },
    },
    {
      path: '/letters/new',
      component: () => import('../letters/NewLetter.vue'),
      meta: { title: 'Letter' },
    },
    {
      path: '/letters/:id',
      component: () => import('../letters/LetterPage.vue'),
      props: true,
      meta: { title: 'Letter' },
    },
    { path: '/calls', component: () => import('../calls/CallsPage.vue'), meta: { title: 'Calls' } },
    {
      path: '/calls/:id',
      component: () => import('../calls/CallSheetPage.vue'),
      props: true,
      meta: { title: 'Call sheet' },
    },
    {
      path: '/imports',
      component: () => import('../imports/ImportsPage.vue'),
      meta: { title: 'Import' },
    },
    {
      path: '/imports/:id',
      component: () => import('../imports/BenchPage.vue'),
      props: true,
      meta: { title: 'Import' },
    },
    { path: '/forms', component: () => import('../forms/FormsPage.vue'), meta: { title: 'Forms' } },
    {
      path: '/forms/:id',
      component: () => import('../forms/DesignerPage.vue'),
      props: true,
      meta: { title: 'Form' },
    },
    {
      path: '/forms/:id/desk',
      component: () => import('../forms/DeskPage.vue'),
      props: true,
      meta: { title: 'At the desk' },
    },
    {
      path: '/settings',
      component: () => import('../settings/SettingsPage.vue'),
      redirect: '/settings/profile',
      children: SETTINGS_PAGES,
    },
    // The components of the kit with examples, for who builds with them.
    ...(import.meta.env.DEV || import.meta.env.MODE === 'kit'
      ? [{ path: '/kit', component: () => import('../kit/examples/KitPage.vue'), meta: { title: 'Kit' } }]
      : []),
    { path: '/:rest(.*)*', component: () => import('./NotHere.vue'), meta: { title: 'Not here' } },
  ],
});

/** The page somebody opens is fetched while it is asked who they are. */
for (const { components } of router.resolve(location.pathname + location.search).matched) {
  const page = components?.default;
  if (typeof page === 'function') void (page as () => Promise<unknown>)().catch(() => null);
}

router.beforeEach(async (to) => {
  const me = await useSession().ready();
  if (!me && to.meta.open !== true)
    return { path: '/sign-in', query: to.path === '/' || to.path === '/arrivals' ? {} : { to: to.fullPath } };
  if (me?.mustAddCode) return to.path === '/codes-first' || '/codes-first';
  if (me && (to.path === '/sign-in' || to.path === '/codes-first')) return '/arrivals';
  const right = rightFor(to.path);
  if (me && right && !useSession().may(right)) {
    // The page where everybody begins is not in everybody's role; any other one was asked for, and says so.
    if (to.path !== '/arrivals')
      useUndo().tell({ text: 'Your role does not include that page.', eventId: null });
    return sectionsFor(useSession().may)[0]?.to ?? '/settings/profile';
  }
  if (to.meta.isForAdmins === true && me?.role !== 'admin') return '/settings/profile';
  return true;
});
router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Emporikon`;
});
