import { createRouter, createWebHistory } from 'vue-router'
import AccountPage from './stages/account/AccountPage.vue'
import FirstPage from './stages/account/FirstPage.vue'
import SignInPage from './stages/account/SignInPage.vue'
import PlanViews from './stages/plan/PlanViews.vue'
import ProgramsPage from './stages/programs/ProgramsPage.vue'
import { serverTabs } from './stages/server/tabs'
import { setUpTabs } from './stages/setup/tabs'
import { useSession } from '@/line/session'

/** The stages that work, in working order; the frame's bar lists these. */
export const stages = [
  { name: 'set-up', title: 'Set up' },
  { name: 'backlog', title: 'Backlog' },
  { name: 'plan', title: 'Plan' },
  { name: 'forecast', title: 'Forecast' },
  { name: 'track', title: 'Track' },
  { name: 'report', title: 'Report' },
] as const

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'programs', component: ProgramsPage },
    { path: '/watch', name: 'watch', component: () => import('./stages/watch/WatchPage.vue') },
    { path: '/sign-in', name: 'sign-in', component: SignInPage, meta: { open: true } },
    { path: '/first', name: 'first', component: FirstPage, meta: { open: true } },
    {
      path: '/screen',
      name: 'screen',
      component: () => import('./stages/report/screen/ScreenPage.vue'),
      meta: { open: true, bare: true },
    },
    { path: '/account', name: 'account', component: AccountPage },
    {
      path: '/server',
      name: 'server',
      redirect: { name: 'server-accounts' },
      component: () => import('./stages/server/ServerStage.vue'),
      children: serverTabs.map((tab) => ({
        path: tab.path,
        name: `server-${tab.path}`,
        component: tab.component,
      })),
    },
    { path: '/accounts', redirect: { name: 'server-accounts' } },
    {
      // The line in view stands in the address, and links within the program keep it.
      path: '/programs/:id(\\d+)/:line(scenario-\\d+|past-[^/]+)?',
      children: [
        { path: '', redirect: (to) => ({ name: 'plan', params: to.params }) },
        { path: 'plan', name: 'plan', component: PlanViews },
        {
          path: 'set-up',
          name: 'set-up',
          redirect: (to) => ({ name: 'set-up-calendar', params: to.params }),
          component: () => import('./stages/setup/SetUpStage.vue'),
          children: setUpTabs.map((tab) => ({
            path: tab.path,
            name: `set-up-${tab.path}`,
            component: tab.component,
          })),
        },
        { path: 'backlog', name: 'backlog', component: () => import('./stages/backlog/BacklogStage.vue') },
        {
          path: 'backlog/import',
          name: 'backlog-import',
          component: () => import('./stages/backlog/ImportPage.vue'),
        },
        {
          path: 'forecast',
          name: 'forecast',
          component: () => import('./stages/forecast/ForecastStage.vue'),
        },
        { path: 'track', name: 'track', component: () => import('./stages/track/TrackStage.vue') },
        { path: 'report', name: 'report', component: () => import('./stages/report/ReportStage.vue') },
      ],
    },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})

// Everything but the ways in is for who is signed in; afterwards it goes on where
// somebody wanted to go.
router.beforeEach(async (to) => {
  const session = useSession()
  if (!session.known) await session.load()
  if (to.meta.open || session.me) return true
  return { name: 'sign-in', query: to.fullPath === '/' ? {} : { next: to.fullPath } }
})
