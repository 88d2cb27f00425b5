import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { ProgramNews } from '@/api/types'

/** What others did that concerns who is signed in, across programs, since they last said so. */
export const useNews = defineStore('news', () => {
  const programs = shallowRef<ProgramNews[]>([])
  const failure = ref('')
  const more = computed(() => programs.value.some((p) => p.more))
  const count = computed(() => programs.value.reduce((sum, p) => sum + p.news.length, 0))
  /** As people read it: 3 news, 100 or more news; empty for none. */
  const title = computed(() => (count.value ? `${count.value}${more.value ? ' or more' : ''} news` : ''))

  let asking = 0
  /** Looks again. Where that fails, what was known stays: the next look mends it. */
  async function load(): Promise<void> {
    const mine = ++asking
    const found = await answer(client.GET('/api/v1/news')).catch(() => undefined)
    if (mine === asking && found) programs.value = found.programs
  }

  /** Knows nothing any more: they are somebody's alone. */
  function forget(): void {
    asking++
    programs.value = []
  }

  /** Says that all that is told was seen. What came meanwhile stays. */
  async function see(): Promise<void> {
    failure.value = ''
    try {
      await Promise.all(
        programs.value
          .filter((p) => p.news.length)
          .map(({ id, revision }) =>
            answer(
              client.PUT('/api/v1/programs/{id}/news-seen', { params: { path: { id } }, body: { revision } }),
            ),
          ),
      )
    } catch (error) {
      failure.value = wordsOf(error)
    }
    await load()
  }

  return { programs, failure, more, count, title, load, forget, see }
})
