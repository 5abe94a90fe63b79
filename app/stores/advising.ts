import { finishLook, readNotices, wishNotices } from '#shared/contract/acts/advising'
import { type AdviseeRow, type Brief, readAdvisees, readBrief, readMessages } from '#shared/contract/views/advising'
import type { NoticeWish } from '@ridgeway/core/advising'
import type { z } from 'zod'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

type Messages = z.output<typeof readMessages.output>

/** The advisor's table and the queue that is worked through, what only those who advise see of the opened file, and one's messages. */
export const useAdvisingStore = defineStore('advising', () => {
  const workingTerm = useWorkingTermStore()
  const student = useStudentStore()
  const session = useSessionStore()
  const advisees = shallowRef<AdviseeRow[] | null>(null)
  const failed = ref<Problem | null>(null)
  const brief = shallowRef<Brief | null>(null)
  const messages = shallowRef<Messages | null>(null)

  async function attempt(work: () => Promise<unknown>): Promise<Problem | null> {
    try {
      await work()
      return null
    }
    catch (error) {
      return toProblem(error)
    }
  }
  let asked = ''
  async function load() {
    const term = workingTerm.code
    asked = term
    failed.value = await attempt(async () => {
      const rows = await look(readAdvisees, { term })
      if (asked === term) advisees.value = rows
    })
  }

  /** Students that are worked through one after the other, and which of them is open; a reload keeps it. */
  const queue = useSessionStorage<number[]>('ridgeway.queue', [])
  const at = computed(() => queue.value.indexOf(student.state?.id ?? 0))
  function begin(ids: readonly number[]) {
    queue.value = [...ids]
    return ids[0] ? navigateTo(`/student/${ids[0]}/brief`) : undefined
  }
  async function step(by: 1 | -1) {
    const next = queue.value[at.value + by]
    if (next) return navigateTo(`/student/${next}/brief`)
    if (by === 1) {
      announce('That was the last one.')
      queue.value = []
      return navigateTo('/advisees')
    }
  }
  const leaveQueue = () => queue.value = []

  async function loadBrief(id: number) {
    if (brief.value && briefOf.value !== id) brief.value = null
    return attempt(async () => {
      const fresh = await look(readBrief, {}, { id })
      if (student.state?.id !== id) return
      briefOf.value = id
      brief.value = fresh
    })
  }
  const briefOf = ref(0)

  /** How the opened file stands is noted as seen when its advisor goes on; what comes after is new to them. */
  async function seen() {
    const { state, standing, suggesting } = student
    if (!state || !standing || suggesting || !student.isAdvising || !state.plan.current) return
    await attempt(() => call(finishLook, { plan: state.plan.id, version: student.version, finish: standing.finish,
      comment: state.comments.at(-1)?.id ?? 0 }, { id: state.id }))
  }

  async function loadMessages() {
    if (!session.account) return null
    return attempt(async () => messages.value = await look(readMessages, {}))
  }
  const unreadMessages = computed(() => messages.value?.notices.filter(one => !one.read).length ?? 0)
  async function readAll() {
    const newest = messages.value?.notices[0]?.id
    if (!newest || unreadMessages.value === 0) return null
    const problem = await attempt(() => call(readNotices, { upTo: newest }))
    if (!problem && messages.value)
      messages.value = { ...messages.value, notices: messages.value.notices.map(one => ({ ...one, read: true })) }
    if (!problem && student.isOwn && student.state) student.state = { ...student.state, messages: 0 }
    return problem
  }
  async function chooseWish(wish: NoticeWish) {
    const problem = await attempt(() => call(wishNotices, { wish }))
    if (!problem && messages.value) messages.value = { ...messages.value, wish }
    return problem
  }

  return { advisees, failed, load, queue, at, begin, step, leaveQueue, brief, loadBrief, seen, messages, unreadMessages, loadMessages,
    readAll, chooseWish }
})
