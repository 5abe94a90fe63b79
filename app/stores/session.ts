import { DateTime } from 'luxon'
import { acceptInvitation, setClock as moveClock, signIn as begin, signOut as end } from '#shared/contract/acts/college'
import { type Account, type DemoAccount, readDemoAccounts, readSession } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** Who is signed in, and the college's clock. */
export const useSessionStore = defineStore('session', () => {
  const account = ref<Account | null>(null)
  const known = ref(false)
  /** Whose session ended while this page was open: what stands on it is theirs. */
  const leftBy = ref<number | null>(null)
  const zone = ref('UTC')
  const demo = ref(false)
  /** Milliseconds between the college's clock and this machine's. */
  const offset = ref(0)
  const demoAccounts = ref<DemoAccount[]>([])

  /** The college's time, once for everything that counts down. */
  const tick = useTimestamp({ interval: 1000 })
  const instant = computed(() => new Date(tick.value + offset.value).toISOString())
  const local = computed(() => DateTime.fromISO(instant.value, { zone: zone.value }))
  const today = computed(() => local.value.toISODate() ?? '')

  /** Asked once, however many want to know at the same time. */
  let asking: Promise<void> | null = null
  const load = () => asking ??= ask().finally(() => asking = null)
  async function ask() {
    const session = await look(readSession, {})
    account.value = session.account
    zone.value = session.zone
    demo.value = session.demo
    offset.value = Date.parse(session.now) - arrivedAt(readSession.path)
    known.value = true
  }

  // A laptop that slept, or a clock that was put right: the college's time is asked for again.
  if (import.meta.client) useEventListener(document, 'visibilitychange', () => {
    if (document.visibilityState === 'visible' && known.value) void load().catch(() => {})
  })

  async function signIn(username: string, password: string): Promise<Problem | null> {
    try {
      const { answer } = await call(begin, { username, password })
      account.value = answer
      return null
    }
    catch (error) {
      return toProblem(error)
    }
  }

  /** Chooses a password by an invitation; whoever was signed in here is so no more. */
  async function welcome(code: string, password: string): Promise<Problem | null> {
    try {
      const { answer } = await call(acceptInvitation, { code, password })
      account.value = answer
      return null
    }
    catch (error) {
      return toProblem(error)
    }
  }

  /** Ends the session; what went wrong where it goes on. */
  async function signOut(): Promise<Problem | null> {
    try {
      await call(end, {})
    }
    catch (error) {
      const problem = toProblem(error)
      return problem.status === 0
        ? { ...problem, detail: 'You are still signed in here. Check the connection and sign out again.' }
        : problem
    }
    if (account.value) forgetPlans(account.value.id)
    account.value = null
    return null
  }

  async function loadDemoAccounts() {
    demoAccounts.value = await look(readDemoAccounts, {}).catch(() => [])
  }

  async function setClock(now: string): Promise<Problem | null> {
    try {
      await call(moveClock, { now })
      offset.value = Date.parse(now) - Date.now()
      return null
    }
    catch (error) {
      return toProblem(error)
    }
  }

  const home = computed(() => {
    const who = account.value
    if (!who) return '/sign-in'
    return who.role === 'student' ? `/student/${who.id}/now` : who.role === 'advisor' ? '/advisees' : '/office'
  })

  return { account, known, leftBy, zone, demo, offset, instant, local, today, demoAccounts,
    home, load, signIn, welcome, signOut, loadDemoAccounts, setClock }
})
