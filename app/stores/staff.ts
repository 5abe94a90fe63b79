import { loadProgramFile, type ProgramCheck } from '#shared/contract/acts/college'
import { readOpenings, readSeats, type SeatRow } from '#shared/contract/views/college'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

/** Lists of the office. */
export const useStaffStore = defineStore('staff', () => {
  const workingTerm = useWorkingTermStore()
  const catalog = useCatalogStore()
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
  return { sendProgramFile, seats, openings, failed, loadSeats, loadOpenings }
})
