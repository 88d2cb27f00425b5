import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { BriefLink, BriefSection, BriefShelf, BriefTold, BriefWhole } from '@/api/types'
import { useProgram } from '@/line/program'
import { useKeptSoon } from '@/ui/useKeptSoon'
import { copy } from '../report'

/** The briefs of a program, and the one in view. */
export const useBriefs = defineStore('briefs', () => {
  const store = useProgram()
  const shelf = shallowRef<BriefShelf>()
  const brief = shallowRef<BriefWhole>()
  /** The sections of a draft, as they are being written: the server's copy follows. */
  const sections = ref<BriefSection[]>([])
  const title = ref('')
  const failure = ref('')
  const saving = ref(false)
  /** Which section is open to be changed. */
  const open = ref('')
  const links = shallowRef<BriefLink[]>()

  const here = () => ({ params: { path: { id: store.id } } })
  /** The program that the brief is of. */
  let program = 0
  const on = (brief: number) => ({ params: { path: { id: program, brief } } })
  const draft = computed(() => !!brief.value && brief.value.number === 0 && !!shelf.value?.mayWrite)
  const told = computed(
    () => new Map((brief.value?.written.sections ?? []).map((s): [string, BriefTold] => [s.key, s])),
  )

  async function attempt<T>(doing: () => Promise<T>): Promise<T | undefined> {
    failure.value = ''
    try {
      return await doing()
    } catch (error) {
      failure.value = wordsOf(error)
      return undefined
    }
  }
  async function list(): Promise<void> {
    shelf.value = await answer(client.GET('/api/v1/programs/{id}/briefs', here()))
  }
  function show(found: BriefWhole): void {
    brief.value = found
    sections.value = copy(found.sections)
    title.value = found.title
  }

  /** Shows a brief; without one the newest. */
  async function load(id: number): Promise<void> {
    if (brief.value?.id !== id) await soon.now() // before another one comes into view
    program = store.id
    await attempt(async () => {
      if (brief.value?.id !== id) {
        brief.value = undefined
        open.value = ''
        links.value = undefined
      }
      await list()
      const wanted = id || shelf.value?.briefs[0]?.id
      if (wanted) show(await answer(client.GET('/api/v1/programs/{id}/briefs/{brief}', on(wanted))))
    })
  }
  // A draft follows the plan: what somebody is writing meanwhile stays.
  watch(
    () => store.revision,
    () => {
      const of = brief.value
      if (!of || of.number || saving.value) return
      void attempt(async () => {
        const found = await answer(client.GET('/api/v1/programs/{id}/briefs/{brief}', on(of.id)))
        if (brief.value?.id === of.id && brief.value.version === found.version) brief.value = found
      })
    },
  )

  async function begin(about: BriefWhole['about']): Promise<number | undefined> {
    const made = await attempt(() =>
      answer(client.POST('/api/v1/programs/{id}/briefs', { ...here(), body: { about } })),
    )
    return made?.id
  }

  /** Keeps the draft as it is written now. What is written while that goes on is kept after it. */
  let again = false
  async function keep(leaving = false): Promise<void> {
    const of = brief.value
    if (!of || of.number) return
    if (saving.value && !leaving) return void (again = true)
    saving.value = true
    soon.done()
    const body = { version: of.version, title: title.value, sections: copy(sections.value) }
    const found = await attempt(() =>
      answer(client.PUT('/api/v1/programs/{id}/briefs/{brief}', { ...on(of.id), body, keepalive: leaving })),
    )
    saving.value = false
    if (found && brief.value?.id === of.id) brief.value = found
    if (again) {
      again = false
      await keep()
    }
  }
  const soon = useKeptSoon(keep, 300)
  const touched = () => soon.touched()

  const at = (key: string) => sections.value.findIndex((s) => s.key === key)
  function put(key: string, more: Partial<BriefSection>): void {
    const section = sections.value[at(key)]
    if (section) Object.assign(section, more)
    touched()
  }
  function move(key: string, by: number): void {
    const i = at(key)
    const to = i + by
    if (i < 0 || to < 0 || to >= sections.value.length) return
    const [section] = sections.value.splice(i, 1)
    sections.value.splice(to, 0, section)
    touched()
  }
  function add(section: Omit<BriefSection, 'key'>): string {
    const key = String(Math.max(0, ...sections.value.map((s) => Number(s.key) || 0)) + 1)
    sections.value.push({ ...section, key })
    open.value = key
    touched()
    return key
  }
  function take(key: string): void {
    sections.value.splice(at(key), 1)
    touched()
  }
  /** What the plan says becomes words of one's own, to be written over. */
  function writeOver(key: string): void {
    const section = sections.value[at(key)]
    const said = told.value.get(key)
    if (!section || !said) return
    section.text = [section.text, ...(said.blocks ?? []).map(markdownOf)].filter(Boolean).join('\n\n')
    delete section.live
    delete section.chart
    open.value = key
    touched()
  }

  async function publish(): Promise<boolean> {
    await keep()
    const of = brief.value
    if (!of || failure.value) return false
    const found = await attempt(() =>
      answer(
        client.POST('/api/v1/programs/{id}/briefs/{brief}/publish', {
          ...on(of.id),
          body: { version: of.version },
        }),
      ),
    )
    if (!found) return false
    show(found)
    await attempt(list)
    return true
  }
  async function remove(): Promise<boolean> {
    const of = brief.value
    if (!of) return false
    const done = await attempt(async () => {
      await answer(client.DELETE('/api/v1/programs/{id}/briefs/{brief}', on(of.id)))
      return true
    })
    return !!done
  }

  async function bringLinks(): Promise<void> {
    const of = brief.value
    if (!of) return
    links.value = await attempt(() =>
      answer(client.GET('/api/v1/programs/{id}/briefs/{brief}/links', on(of.id))),
    )
  }
  async function link(): Promise<string | undefined> {
    const of = brief.value
    if (!of) return undefined
    const made = await attempt(() =>
      answer(client.POST('/api/v1/programs/{id}/briefs/{brief}/links', on(of.id))),
    )
    await bringLinks()
    return made?.path && `${window.location.origin}${made.path}`
  }
  async function endLink(id: number): Promise<void> {
    await attempt(() =>
      answer(
        client.DELETE('/api/v1/programs/{id}/links/{link}', {
          params: { path: { id: store.id, link: id } },
        }),
      ),
    )
    await bringLinks()
  }

  return {
    shelf,
    brief,
    sections,
    title,
    failure,
    saving,
    open,
    links,
    draft,
    told,
    load,
    begin,
    touched,
    put,
    move,
    add,
    take,
    writeOver,
    publish,
    remove,
    bringLinks,
    link,
    endLink,
  }
})

type Block = NonNullable<BriefTold['blocks']>[number]

/** What the plan says, as Markdown. */
export function markdownOf(block: Block): string {
  if (block.markdown) return block.markdown
  if (block.list) return block.list.map((text) => `- ${text}`).join('\n')
  if (block.head) {
    const line = (cells: string[]) => `| ${cells.map((c) => c.replaceAll('|', '\\|')).join(' | ')} |`
    const rule = block.head.map((_, i) => (block.figures?.[i] ? '---:' : '---'))
    return [line(block.head), line(rule), ...(block.rows ?? []).map(line)].join('\n')
  }
  return block.text ?? block.drawn?.sentence ?? ''
}

/** Keys of items that a text names become links to them. */
export function linked(
  text: string,
  titleOf: (key: string) => string | undefined,
  path: (key: string) => string,
): string {
  return text.replace(
    /(^|[\s(*_])([A-Za-z]\w*-\d+)(?=$|[\s).,;:!?*_])/gm,
    (whole, before: string, key: string) => {
      const title = titleOf(key)
      return title === undefined ? whole : `${before}[${key}](${path(key)} "${title.replaceAll('"', '’')}")`
    },
  )
}
