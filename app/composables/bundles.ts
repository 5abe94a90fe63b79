import type { Section } from '@ridgeway/core/catalog'
import { sayShortly } from '@ridgeway/words'
import type { FoundBundle } from '#shared/contract/views/find'

/** What is said of a bundle wherever it is met: in Find, in the Week, on its sheet. */
export type SaidBundle = Pick<FoundBundle, 'sections' | 'refusals' | 'hits' | 'seats' | 'waiting' | 'registered'>

/** How a bundle is said: its session, its places, its seats, and whether it fits and why not. */
export function useBundleSaying() {
  const catalog = useCatalogStore()
  const workingTerm = useWorkingTermStore()
  const sessionOf = ({ sections }: Pick<SaidBundle, 'sections'>) => {
    const { session } = sections[0] as Section
    return session === 'full' ? '' : workingTerm.term?.sessions.find(one => one.code === session)?.name.toLowerCase() ?? session
  }
  /** Sites where it meets, with the rooms or without; empty where it has no set time. */
  const sayPlaces = ({ sections }: Pick<SaidBundle, 'sections'>, withRooms: boolean) =>
    [...new Set((sections as Section[]).flatMap(section => section.meetings.map(({ site, room }) =>
      withRooms && site !== 'online' ? `${catalog.siteName(site)} · ${room}` : catalog.siteName(site))))]
  const saySeats = ({ seats, waiting, registered }: SaidBundle) =>
    registered ? 'registered' : seats > 0 ? `${seats} left` : `full${waiting > 0 ? ` · ${waiting} wait` : ''}`
  /** Why it does not fit, in a few words; null where it does. */
  function sayMisfit({ refusals: [first], hits: [hit], registered }: SaidBundle): string | null {
    if (registered) return null
    if (first) return sayShortly(first)
    return hit === undefined ? null : `hits keep-free${hit ? `: ${hit}` : ''}`
  }
  return { sessionOf, sayPlaces, saySeats, sayMisfit }
}
