import { createRouter, createWebHistory } from 'vue-router';
import { useSession } from './session';

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', redirect: '/arrivals' },
    { path: '/sign-in', component: () => import('./SignIn.vue'), meta: { open: true, title: 'Sign in' } },
    {
      path: '/arrivals/:id?',
      component: () => import('../arrivals/ArrivalsPage.vue'),
      meta: { title: 'Arrivals' },
    },
    { path: '/round', component: () => import('../round/RoundPage.vue'), meta: { title: 'Round' } },
    { path: '/leads', component: () => import('../leads/LeadsPage.vue'), meta: { title: 'Leads' } },
    {
      path: '/leads/:id',
      component: () => import('../leads/LeadPage.vue'),
      props: true,
      meta: { title: 'Lead' },
    },
    { path: '/people', component: () => import('../people/PeoplePage.vue'), meta: { title: 'People' } },
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
    {
      path: '/companies/:id',
      component: () => import('../companies/CompanyPage.vue'),
      props: true,
      meta: { title: 'Company' },
    },
    { path: '/deals', component: () => import('../deals/PipelinePage.vue'), meta: { title: 'Deals' } },
    {
      path: '/deals/:id',
      component: () => import('../deals/DealPage.vue'),
      props: true,
      meta: { title: 'Deal' },
    },
    {
      path: '/pipelines',
      component: () => import('../pipelines/PipelinesPage.vue'),
      meta: { title: 'Stages and prices' },
    },
    {
      path: '/forecast',
      component: () => import('../forecast/ForecastPage.vue'),
      meta: { title: 'Forecast' },
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
      meta: { title: 'Import bench' },
    },
    {
      path: '/imports/:id',
      component: () => import('../imports/BenchPage.vue'),
      props: true,
      meta: { title: 'Import bench' },
    },
    {
      path: '/look-alikes',
      component: () => import('../lookalikes/LookAlikesPage.vue'),
      meta: { title: 'Look-alikes' },
    },
    {
      path: '/look-ups',
      component: () => import('../lookups/LookUpsPage.vue'),
      meta: { title: 'Look-ups' },
    },
    {
      path: '/qualifying',
      component: () => import('../qualifying/QualifyingPage.vue'),
      meta: { title: 'Qualifying' },
    },
    { path: '/triage', component: () => import('../triage/TriagePage.vue'), meta: { title: 'Triage' } },
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
      meta: { title: 'Settings' },
    },
    { path: '/:rest(.*)*', component: () => import('./NotHere.vue'), meta: { title: 'Not here' } },
  ],
});

router.beforeEach(async (to) => {
  const me = await useSession().ready();
  if (!me && to.meta.open !== true)
    return { path: '/sign-in', query: to.path === '/' || to.path === '/arrivals' ? {} : { to: to.fullPath } };
  if (me && to.path === '/sign-in') return '/arrivals';
  return true;
});
router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? '')} · Emporikon`;
});
