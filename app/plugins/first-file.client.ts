/** The file that the address names is asked for as soon as it is known who asks and for which term, before its page is drawn. */
export default defineNuxtPlugin({ parallel: true, setup() {
  const student = /^\/student\/(\d+)\//.exec(window.location.pathname)?.[1]
  if (!student) return
  void Promise.all([useSessionStore().load().catch(() => {}), useCatalogStore().load()])
    .then(() => useSessionStore().account && useStudentStore().loadEarly(Number(student)))
} })
