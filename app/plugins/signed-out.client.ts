/** A session that ended elsewhere leads to the sign-in page, which says so and leads back. */
export default defineNuxtPlugin(() => {
  const session = useSessionStore()
  onSignedOut(() => {
    if (!session.account) return
    const { fullPath } = useRouter().currentRoute.value
    session.leftBy = session.account.id
    session.account = null
    void navigateTo({ path: '/sign-in', query: { next: fullPath, ended: '1' } })
  })
})
