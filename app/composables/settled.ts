import type { ProgramReport, ProgramsInput } from '@ridgeway/core/requirements'
import SettleWorker from '~/workers/settle.worker?worker'

/**
 * A reading whose best use is not proved is looked at further in a worker; what it finds takes its place.
 * A change of the plan or the record makes a new reading, and what was still being looked at is dropped.
 */
export function useSettled(asked: () => ProgramsInput | null, reports: () => readonly ProgramReport[]) {
  const found = shallowRef<{ asked: ProgramsInput, reports: ProgramReport[] } | null>(null)
  const looking = ref(false)
  let worker: Worker | null = null
  const stop = () => {
    worker?.terminate()
    worker = null
    looking.value = false
  }
  watch(asked, (now) => {
    stop()
    if (!now || found.value?.asked === now || reports().every(report => report.proved)) return
    looking.value = true
    worker = new SettleWorker()
    worker.onmessage = ({ data }: MessageEvent<ProgramReport[]>) => {
      found.value = { asked: now, reports: data }
      stop()
    }
    worker.postMessage(toRaw(now))
  }, { immediate: true })
  onScopeDispose(stop)
  /** All reports with what was found; null while nothing was. */
  const settled = computed(() => found.value && found.value.asked === asked() ? found.value.reports : null)
  return { settled, looking }
}
