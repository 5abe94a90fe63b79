import { listen, type News } from '#shared/contract/views/student'

/** Listens to what changes beside this page for a student; the browser reconnects by itself. */
export function usePlanNews(student: () => number | null, heard: (news: News) => void) {
  let source: EventSource | null = null
  const close = () => {
    source?.close()
    source = null
  }
  watch(student, (id) => {
    close()
    if (id === null) return
    source = new EventSource(listen.path.replace(':id', String(id)))
    source.onmessage = ({ data }: MessageEvent<string>) => heard(JSON.parse(data) as News)
  }, { immediate: true })
  onScopeDispose(close)
}
