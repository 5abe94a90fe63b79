import type { ArrangeInput, Conflict, Wish } from '@ridgeway/core/weeks'
import ArrangeWorker from '~/workers/arrange.worker?worker'
import type { Arrangement, ArrangeMessage } from '~/workers/arrange.worker'
import { toProblem } from '~/composables/useApi'
import { type OpenPlace, readPlaces } from '~/composables/week/places'

/** Arranging the working term: the wishes as they are on file, the work in a worker, and which arrangement the week shows. */
export const useArrangeStore = defineStore('arrange', () => {
  const week = useWeekStore()
  const wishes = computed({ get: () => week.wishes, set: (next: Wish[]) => void week.keepWishes(next) })
  const running = ref(false)
  const failed = ref('')
  const weeks = shallowRef<Arrangement[] | null>(null)
  const count = ref<{ count: number, atLeast: boolean } | null>(null)
  /** By hard wish the weeks that it hides; at least so many where counting took too long. */
  const hidden = shallowRef<{ weeks: Record<string, number>, atLeast: boolean }>({ weeks: {}, atLeast: false })
  const conflict = shallowRef<Conflict | null>(null)
  /** The place of the arrangement that the week shows, among the best. */
  const at = ref(0)
  const looked = computed(() => weeks.value?.[at.value] ?? null)
  let worker: Worker | null = null
  /** Places held in the working term, with what could fill them, and those that are left as they are. */
  const places = shallowRef<OpenPlace[]>([])
  const leftOpen = ref<string[]>([])
  const isOf = useFileAndTerm()
  const readings = useReadings<OpenPlace[]>(answer => places.value = answer)
  async function loadPlaces() {
    const of = isOf.value
    try {
      await readings.read(readPlaces, () => of === isOf.value)
    }
    catch (error) {
      failed.value = `What could fill the places that are held could not be read: ${toProblem(error).title} The courses are arranged
        without them.`
      places.value = []
    }
  }

  function cancel() {
    worker?.terminate()
    worker = null
    running.value = false
  }
  function close() {
    cancel()
    weeks.value = null
    conflict.value = null
  }
  function run(input: ArrangeInput) {
    cancel()
    failed.value = ''
    count.value = null
    running.value = true
    const mine = new ArrangeWorker()
    worker = mine
    mine.onmessage = ({ data }: MessageEvent<ArrangeMessage>) => {
      if (data.kind === 'first') {
        weeks.value = [data.week]
        at.value = 0
        conflict.value = null
        count.value = null
      }
      else if (data.kind === 'best') weeks.value = data.weeks
      else if (data.kind === 'count') count.value = data
      else if (data.kind === 'hidden') hidden.value = { weeks: data.hidden, atLeast: data.atLeast }
      else if (data.kind === 'conflict') conflict.value = data.conflict
      else cancel()
    }
    mine.onerror = (event) => {
      event.preventDefault()
      failed.value = 'No arrangement could be worked out. Nothing was changed; try again, or with other wishes.'
      cancel()
    }
    // What the worker gets is a copy, and plain.
    mine.postMessage(JSON.parse(JSON.stringify(input)))
  }
  const step = (by: number) => {
    const all = weeks.value?.length ?? 0
    if (all > 0) at.value = (at.value + by + all) % all
  }
  return { wishes, places, leftOpen, loadPlaces, running, failed, weeks, count, hidden, conflict, at, looked, run, cancel, close, step }
})
