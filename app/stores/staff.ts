import { loadProgramFile, type ProgramCheck } from '#shared/contract/acts/college'
import type { OfficeNeed } from '@ridgeway/core/office'
import { readOpenings, readSeats, type SeatList, type SeatOrder } from '#shared/contract/views/college'
import { readOfficeToday } from '#shared/contract/views/office'
import { call, look, toProblem, type Problem } from '~/composables/useApi'

export interface Opening { term: string, from: string, program: string | null, earnedMin: number, words: string }

/** Lists of the office. */
export const useStaffStore = defineStore('staff', () => {
  const workingTerm = useWorkingTermStore()
  const catalog = useCatalogStore()
  const seats = shallowRef<SeatList | null>(null)
  /** What part of the sections is looked at. */
  const seatsAsked = shallowRef<{ text: string, by: SeatOrder, down?: '0' | '1', from: number, most: number }>({ text: '', by: 'need',
    from: 0, most: 15 })
  const openings = shallowRef<Opening[]>([])
  const needs = shallowRef<OfficeNeed[] | null>(null)
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
    const asked = seatsAsked.value
    const term = workingTerm.code
    const list = await look(readSeats, { term, ...asked })
    if (asked === seatsAsked.value && term === workingTerm.code) seats.value = list
  })
  /** What needs the office, and the openings, as they are now. */
  const loadToday = () => read(async () => {
    const term = workingTerm.code
    const [today, all] = await Promise.all([look(readOfficeToday, { term }), look(readOpenings, {})])
    if (term !== workingTerm.code) return
    needs.value = today.needs
    openings.value = all
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
  return { sendProgramFile, seats, seatsAsked, needs, loadToday, openings, failed, loadSeats, loadOpenings }
})
