import { toProblem } from '~/composables/useApi'

/** Everything but the sign-in page needs an account; `/` leads to the account's own home. */
export default defineNuxtRouteMiddleware(async (to) => {
  // One page, one address: a slash at its end is taken off, and a file opens at Now.
  const path = to.path.replace(/\/+$/, '') || '/'
  const whole = /^\/student\/\d+$/.test(path) ? `${path}/now` : path
  if (whole !== to.path) return navigateTo({ path: whole, query: to.query, hash: to.hash }, { replace: true })
  const session = useSessionStore()
  if (!session.known) {
    try {
      await session.load()
    }
    catch (error) {
      // An installation without a college has one thing to do.
      if (toProblem(error).code === 'no-college') return to.path === '/set-up' ? undefined : navigateTo('/set-up')
      throw error
    }
  }
  if (to.path === '/welcome') return
  if (to.path === '/set-up') return navigateTo(session.home)
  if (to.path === '/sign-in') return session.account ? navigateTo(session.home) : undefined
  if (!session.account) return navigateTo({ path: '/sign-in', query: to.path === '/' ? {} : { next: to.fullPath, ended: '1' } })
  if (['/not-yours', '/kit', '/messages'].includes(to.path)) return
  if (to.path === '/') return navigateTo(session.home)
  const { role, id } = session.account
  const mine = role === 'student'
    ? to.path.startsWith(`/student/${id}/`) || to.path === '/clock'
    : role === 'advisor'
      ? !to.path.startsWith('/office')
      : !to.path.startsWith('/advisees')
  if (!mine) return navigateTo({ path: '/not-yours', query: { from: to.path } })
})
