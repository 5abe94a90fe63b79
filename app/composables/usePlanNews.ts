import type { PlanNews } from '~~/server/services/plan-watch'

/** Listens to what changes beside this page for a student; the browser reconnects by itself. */
export function usePlanNews(student: () => number | null, heard: (news: PlanNews) => void) {
  let source: EventSource | null = null
  const close = () => {
    source?.close()
    source = null
  }
  watch(student, (id) => {
    close()
    if (id === null) return
    source = new EventSource(`/api/students/${id}/plan-events`)
    source.onmessage = ({ data }: MessageEvent<string>) => heard(JSON.parse(data) as PlanNews)
  }, { immediate: true })
  onScopeDispose(close)
}
