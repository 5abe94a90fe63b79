import type { Draft, DraftResult, DraftStage, DraftWishes } from '@ridgeway/core/planning'
import DraftWorker from '~/workers/draft.worker?worker'
import type { DraftMessage } from '~/workers/draft.worker'

/** Drafting the rest of the opened plan: the work in a worker, its outcome, and which draft the board shows. */
export const useDraftStore = defineStore('draft', () => {
  const student = useStudentStore()
  const { today } = useNow()
  const running = ref(false)
  const progress = ref<{ share: number, stage: DraftStage | 'starting' }>({ share: 0, stage: 'starting' })
  const result = shallowRef<DraftResult | null>(null)
  const failed = ref('')
  const ms = ref(0)
  const looked = shallowRef<Draft | null>(null)
  let worker: Worker | null = null

  function cancel() {
    worker?.terminate()
    worker = null
    running.value = false
  }

  function run(wishes: DraftWishes) {
    cancel()
    look(null)
    result.value = null
    failed.value = ''
    running.value = true
    progress.value = { share: 0, stage: 'starting' }
    const mine = new DraftWorker()
    worker = mine
    mine.onmessage = ({ data }: MessageEvent<DraftMessage>) => {
      if (data.kind === 'progress') {
        progress.value = { share: data.share, stage: data.stage }
        return
      }
      result.value = data.result
      ms.value = data.ms
      cancel()
      if (data.result.kind === 'drafts') look(data.result.drafts[0]!)
    }
    mine.onerror = (event) => {
      event.preventDefault()
      failed.value = 'The draft could not be made. Nothing was changed; try again, or with other wishes.'
      cancel()
    }
    // What the worker gets is a copy, and plain.
    mine.postMessage({ file: toPlain(student.file),
      catalog: { ...student.rules, programs: student.rules.programs.map(toRaw), courses: toRaw(student.rules.courses),
        terms: student.rules.terms.map(toRaw), scale: toPlain(student.rules.scale) }, today: today.value, wishes: toPlain(wishes) })
  }

  /** Shows a draft on the board; nothing is changed by it. */
  function look(draft: Draft | null) {
    looked.value = draft
    student.preview = draft?.operations ?? null
  }
  function close() {
    cancel()
    look(null)
    result.value = null
    failed.value = ''
  }
  // Edits made meanwhile, here or elsewhere, make what was drafted for another plan.
  watch(() => JSON.stringify([student.state?.plan.id, student.plan.entries, student.plan.placeholders]), () => {
    if (running.value || result.value) close()
  })

  return { running, progress, result, failed, ms, looked, run, cancel, look, close }
})

const toPlain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T
