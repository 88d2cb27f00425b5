import { ofLine } from '@/api/inView'
import { computed, nextTick, type ComputedRef } from 'vue'
import { useRouter } from 'vue-router'
import { pair } from '@/line/pair'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { useSession } from '@/line/session'
import { stages } from '@/router'
import { useBacklog } from '@/stages/backlog/backlog'
import { useViews } from '@/views/views'
import { useDraft } from '@/stages/plan/draft'
import { useLevers } from '@/stages/plan/levers'
import { usePlan } from '@/stages/plan/plan'
import { useSetUp } from '@/stages/setup/setup'
import { setUpTabs } from '@/stages/setup/tabs'
import { useTheme } from '@/ui/useTheme'

/** Something that is found, or that can be done. */
export interface Hit {
  id: string
  kind: string
  label: string
  go: () => unknown
}

/** What the find box offers: the commands of every stage, and the things of the program but its items. */
export function useHits(journal: () => void): { commands: ComputedRef<Hit[]>; things: ComputedRef<Hit[]> } {
  const router = useRouter()
  const store = useProgram()
  const session = useSession()
  const backlog = useBacklog()
  const views = useViews()
  const plan = usePlan()
  const draft = useDraft()
  const levers = useLevers()
  const setUp = useSetUp()
  const scenarios = useScenarios()
  void scenarios.load()
  const { theme, toggle } = useTheme()

  const to = (name: string) => router.push({ name, params: { id: store.id } })
  async function inBacklog(what: () => unknown): Promise<void> {
    await to('backlog')
    await backlog.open()
    what()
  }
  async function inPlan(what: () => unknown): Promise<void> {
    await to('plan')
    await nextTick()
    what()
  }
  function inSetUp(tab: (typeof setUpTabs)[number]['path'], what: string, key?: string): unknown {
    setUp.wanted = { what, key }
    return to(`set-up-${tab}`)
  }
  const only = (field: string, key: string, name: string) =>
    inBacklog(() =>
      backlog.show({ key: '', name, filter: { conditions: [{ field, is: 'is', values: [key] }] } }),
    )

  const commands = computed<Hit[]>(() => {
    const manages = store.may({ op: 'add', kind: 'team' })
    const list: [string, () => unknown, boolean?][] = [
      ...stages.map((s): [string, () => unknown] => [`Go to ${s.title}`, () => to(s.name)]),
      ...setUpTabs.map((t): [string, () => unknown] => [`Set up: ${t.title}`, () => to(`set-up-${t.path}`)]),
      [
        'New item',
        () =>
          inBacklog(
            () => (backlog.adding = backlog.places.has(backlog.cursor.key) ? backlog.cursor.key : ''),
          ),
        store.may({ op: 'add', kind: 'item' }) || store.mine.role === 'team lead',
      ],
      ['New team', () => inSetUp('teams', 'new-team'), manages],
      ['New cadence', () => inSetUp('calendar', 'new-cadence'), manages],
      ['New release', () => inSetUp('releases', 'new-release'), manages],
      ['New milestone', () => inSetUp('releases', 'new-milestone'), manages],
      ['Add people', () => inSetUp('people', 'add-people'), manages],
      ['Who has time?', () => inSetUp('people', 'find-people')],
      ['Capacity report, as a file', () => inSetUp('capacity', 'report')],
      ['Holidays', () => to('set-up-calendar')],
      ['Setting: how far drafts fill iterations', () => to('set-up-teams')],
      ['Setting: phases to give the next release', () => to('set-up-releases')],
      ['Setting: who may do what', () => to('set-up-access')],
      ['Import a spreadsheet or an outline', () => to('backlog-import')],
      ['Where the date falls: what fits by a date', () => inBacklog(() => (backlog.panel = 'fit'))],
      ['Setting: what ready means', () => inBacklog(() => (backlog.panel = 'ready'))],
      ['Setting: wanted mix of the work', () => inBacklog(() => (backlog.panel = 'mix'))],
      ['Release scope', () => inBacklog(() => (backlog.panel = 'scope'))],
      ['Show what is over capacity', () => inPlan(() => plan.show('over'))],
      [
        'Who owes whom: the map of needs',
        () => router.push({ name: 'plan', params: { id: store.id }, query: { as: 'needs' } }),
      ],
      [
        'What is owed, and waited for',
        () => router.push({ name: 'plan', params: { id: store.id }, query: { as: 'needs', show: 'owed' } }),
      ],
      ['Show broken needs', () => inPlan(() => plan.show('broken'))],
      [
        'Draft a schedule',
        () => inPlan(() => draft.start()),
        store.mine.role !== 'viewer' && store.mine.role !== 'member',
      ],
      ...(store.program.releases ?? []).map((r): [string, () => unknown] => [
        `Fix ${r.name}: recovery options`,
        () => inPlan(() => levers.open({ release: r.key })),
      ]),
      ...(store.program.milestones ?? []).map((m): [string, () => unknown] => [
        `Fix ${m.name}: recovery options`,
        () => inPlan(() => levers.open({ milestone: m.key })),
      ]),
      [
        'Compare: this plan beside others',
        () => router.push({ name: 'plan', params: { id: store.id }, query: { as: 'compare' } }),
      ],
      [
        'Since then: what became of the plan since a baseline or a day',
        () => router.push({ name: 'plan', params: { id: store.id }, query: { as: 'since' } }),
      ],
      ['Back to the live plan', () => scenarios.show({}), store.past || !!store.line.scenario],
      [
        'New scenario: a copy in which everything can be tried',
        () => (scenarios.asked = {}),
        scenarios.mayMake,
      ],
      ...scenarios.list.map((s): [string, () => unknown] => [
        `Scenario: ${s.name}`,
        () => scenarios.show({ scenario: s.id }),
      ]),
      ['Undo', () => store.undo()],
      ['Redo', () => store.redo()],
      ['What changed', journal],
      [`Use the ${theme.value === 'dark' ? 'light' : 'dark'} theme`, toggle],
      [
        'Export the program document',
        () => window.location.assign(ofLine(`/api/v1/programs/${store.id}/document`)),
      ],
      ['All programs', () => router.push('/')],
      ['My account', () => router.push({ name: 'account' })],
      ['The server: accounts, audit log, backups', () => router.push('/server'), !!session.me?.admin],
    ]
    return list
      .filter(([, , may]) => may !== false)
      .map(([label, go]) => ({ id: `do-${label}`, kind: 'do', label, go }))
  })

  const things = computed<Hit[]>(() => [
    ...views.all.map((v) => ({
      id: `view-${v.key}`,
      kind: 'view',
      label: v.name,
      go: () => inBacklog(() => backlog.show(v)),
    })),
    ...(store.program.teams ?? []).map((t) => ({
      id: `team-${t.key}`,
      kind: 'team',
      label: `${t.key} ${t.name}`,
      go: () => only('team', t.key, t.name),
    })),
    ...(store.program.releases ?? []).map((r) => ({
      id: `release-${r.key}`,
      kind: 'release',
      label: r.name,
      go: () => only('release', r.key, r.name),
    })),
    ...(store.program.milestones ?? []).map((m) => ({
      id: `milestone-${m.key}`,
      kind: 'milestone',
      label: m.name,
      go: () =>
        router.push({ name: 'set-up-releases', params: { id: store.id }, query: { milestone: m.key } }),
    })),
    ...(store.program.people ?? []).map((p) => ({
      id: `person-${p.key}`,
      kind: 'person',
      label: p.name,
      go: () => inSetUp('people', 'person', p.key),
    })),
    ...(store.program.teams ?? []).flatMap((t) =>
      (t.iterations ?? []).map((it) => ({
        id: `iteration-${t.key}-${it.key}`,
        kind: 'iteration',
        label: `${it.name || it.key} ${t.name}`,
        go: () => inSetUp('calendar', 'iteration', pair(`team/${t.key}`, it.key)),
      })),
    ),
  ])

  return { commands, things }
}
