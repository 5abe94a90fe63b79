import type { AdviseeRow } from '~~/server/services/advisees'
import type { ProgramCheck } from '~~/server/services/programs'
import type { SeatRow } from '~~/server/services/office'
import { toProblem, type Problem } from '~/composables/useApi'

/** Lists of the advisor and of the office. */
export const useStaffStore = defineStore('staff', () => {
  const workingTerm = useWorkingTermStore()
  const catalog = useCatalogStore()
  const advisees = shallowRef<AdviseeRow[] | null>(null)
  const seats = shallowRef<SeatRow[] | null>(null)
  const openings = shallowRef<{ term: string, from: string, words: string }[]>([])
  const failed = ref<Problem | null>(null)

  async function read(work: () => Promise<void>) {
    try {
      await work()
      failed.value = null
    }
    catch (error) {
      failed.value = toProblem(error)
    }
  }
  const loadAdvisees = () => read(async () => {
    advisees.value = await $fetch<AdviseeRow[]>('/api/advisees', { query: { term: workingTerm.code } })
  })
  const loadSeats = () => read(async () => {
    seats.value = await $fetch<SeatRow[]>('/api/seats', { query: { term: workingTerm.code } })
  })
  const loadOpenings = () => read(async () => {
    openings.value = await $fetch<{ term: string, from: string, words: string }[]>('/api/openings')
  })
  /** Checks a program file and, with `keep`, puts it in force; the catalog is then read again. */
  async function sendProgramFile(text: string, keep: boolean): Promise<ProgramCheck | Problem> {
    try {
      const answer = await $fetch<ProgramCheck>('/api/programs', { method: 'POST', body: { text, keep } })
      if (keep) await catalog.load(true)
      return answer
    }
    catch (error) {
      return toProblem(error)
    }
  }
  return { sendProgramFile, advisees, seats, openings, failed, loadAdvisees, loadSeats, loadOpenings }
})
