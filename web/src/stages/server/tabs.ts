/** What administrators of the server look after. */
export const serverTabs = [
  { path: 'accounts', title: 'Accounts', component: () => import('./AccountsTab.vue') },
  { path: 'audit', title: 'Audit log', component: () => import('./AuditTab.vue') },
  { path: 'backups', title: 'Backups', component: () => import('./BackupsTab.vue') },
] as const
