import { listenSeats } from '#shared/contract/views/college'
import type { SeatNews } from '#shared/contract/views/student'

/** Listens to the seats of a term, where no student's file is open whose news bring them. */
export function useSeatStream(term: () => string) {
  const seats = useSeatsStore()
  let source: EventSource | null = null
  watch(term, (code) => {
    source?.close()
    source = code ? new EventSource(`${listenSeats.path}?term=${code}`) : null
    source?.addEventListener('seats', ({ data }: MessageEvent<string>) => seats.take(JSON.parse(data) as SeatNews))
  }, { immediate: true })
  onScopeDispose(() => source?.close())
}
