/** The parts of the set-up stage, in working order. */
export const setUpTabs = [
  { path: 'calendar', title: 'Calendar', component: () => import('./calendar/CalendarTab.vue') },
  { path: 'releases', title: 'Releases', component: () => import('./releases/ReleasesTab.vue') },
  { path: 'teams', title: 'Teams', component: () => import('./teams/TeamsTab.vue') },
  { path: 'people', title: 'People', component: () => import('./people/PeopleTab.vue') },
  { path: 'capacity', title: 'Capacity', component: () => import('./capacity/CapacityTab.vue') },
  { path: 'velocity', title: 'Velocity', component: () => import('./velocity/VelocityTab.vue') },
  { path: 'files', title: 'Files', component: () => import('./files/FilesTab.vue') },
  { path: 'access', title: 'Access', component: () => import('./access/AccessTab.vue') },
] as const
