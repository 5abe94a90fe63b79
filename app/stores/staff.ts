import type { AdviseeRow } from '~~/server/services/advisees'
import type { SeatRow } from '~~/server/services/office'
import { toProblem, type Problem } from '~/composables/useApi'

/** Lists of the advisor and of the office. */
export const useStaffStore = defineStore('staff', () => {
  const workingTerm = useWorkingTermStore()
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
  return { advisees, seats, openings, failed, loadAdvisees, loadSeats, loadOpenings }
})
