import { loadProgramFile, type ProgramCheck } from '#shared/contract/acts/college'
import { type AdviseeRow, readAdvisees, readOpenings, readSeats, type SeatRow } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

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
    advisees.value = await look(readAdvisees, { term: workingTerm.code })
  })
  const loadSeats = () => read(async () => {
    seats.value = await look(readSeats, { term: workingTerm.code })
  })
  const loadOpenings = () => read(async () => {
    openings.value = await look(readOpenings, {})
  })
  /** Checks a program file and, with `keep`, puts it in force; the catalog is then read again. */
  async function sendProgramFile(text: string, keep: boolean): Promise<ProgramCheck | Problem> {
    try {
      const { answer } = await call(loadProgramFile, { text, keep })
      if (keep) await catalog.load(true)
      return answer
    }
    catch (error) {
      return toProblem(error)
    }
  }
  return { sendProgramFile, advisees, seats, openings, failed, loadAdvisees, loadSeats, loadOpenings }
})
