import { listen, type News, type SeatNews } from '#shared/contract/views/student'

/** Milliseconds until a server that would not tell news is asked again. */
const AGAIN_MS = 4000

/**
 * Listens to what changes beside this page for a student, and to the seats of a term. After a lost connection the browser asks again by
 * itself; where the server
 * would not go on, `look` tells whether there is still something to listen to.
 */
export function usePlanNews(about: () => { id: number, term: string } | null, heard: (news: News) => void, seats: (news: SeatNews) => void,
  look: () => Promise<boolean>) {
  let source: EventSource | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  const close = () => {
    clearTimeout(timer)
    source?.close()
    source = null
  }
  function open(id: number, term: string) {
    close()
    const opened = new EventSource(`${listen.path.replace(':id', String(id))}${term ? `?term=${term}` : ''}`)
    source = opened
    opened.onmessage = ({ data }: MessageEvent<string>) => heard(JSON.parse(data) as News)
    opened.addEventListener('seats', ({ data }: MessageEvent<string>) => seats(JSON.parse(data) as SeatNews))
    opened.onerror = async () => {
      if (opened.readyState !== EventSource.CLOSED || opened !== source) return
      if (!await look() || opened !== source) return
      timer = setTimeout(() => open(id, term), AGAIN_MS)
    }
  }
  watch(() => about() && `${about()!.id} ${about()!.term}`, () => {
    const now = about()
    if (now) open(now.id, now.term)
    else close()
  }, { immediate: true })
  onScopeDispose(close)
}
