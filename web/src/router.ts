import { createRouter, createWebHistory } from 'vue-router'
import PlanStage from './stages/plan/PlanStage.vue'
import ProgramsPage from './stages/programs/ProgramsPage.vue'

/** The stages that work, in working order; the frame's bar lists these. */
export const stages = [{ name: 'plan', title: 'Plan' }] as const

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'programs', component: ProgramsPage },
    { path: '/programs/:id(\\d+)', redirect: (to) => ({ name: 'plan', params: to.params }) },
    { path: '/programs/:id(\\d+)/plan', name: 'plan', component: PlanStage },
    { path: '/:rest(.*)*', redirect: '/' },
  ],
})
