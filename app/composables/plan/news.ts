import { listen, type News } from '#shared/contract/views/student'

/** Milliseconds until a server that would not tell news is asked again. */
const AGAIN_MS = 4000

/**
 * Listens to what changes beside this page for a student. After a lost connection the browser asks again by itself; where the server
 * would not go on, `look` tells whether there is still something to listen to.
 */
export function usePlanNews(student: () => number | null, heard: (news: News) => void, look: () => Promise<boolean>) {
  let source: EventSource | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  const close = () => {
    clearTimeout(timer)
    source?.close()
    source = null
  }
  function open(id: number) {
    close()
    const opened = new EventSource(listen.path.replace(':id', String(id)))
    source = opened
    opened.onmessage = ({ data }: MessageEvent<string>) => heard(JSON.parse(data) as News)
    opened.onerror = async () => {
      if (opened.readyState !== EventSource.CLOSED || opened !== source) return
      if (!await look() || opened !== source) return
      timer = setTimeout(() => open(id), AGAIN_MS)
    }
  }
  watch(student, id => id === null ? close() : open(id), { immediate: true })
  onScopeDispose(close)
}
