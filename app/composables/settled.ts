import type { ProgramReport, ReportInput } from '@ridgeway/core/requirements'
import SettleWorker from '~/workers/settle.worker?worker'

/**
 * Readings whose best use is not proved are looked at further in a worker; what it finds takes their place.
 * A change of the plan or the record makes a new input, and what was still being looked at is dropped.
 */
export function useSettled(inputs: () => readonly ReportInput[], reports: () => readonly ProgramReport[]) {
  const found = shallowRef(new Map<ReportInput, ProgramReport>())
  const looking = shallowRef<ReadonlySet<ReportInput>>(new Set())
  let workers: Worker[] = []
  const stop = () => {
    workers.forEach(worker => worker.terminate())
    workers = []
  }
  watch(inputs, (now) => {
    stop()
    const open = now.filter((input, i) => reports()[i] && !reports()[i]!.proved && !found.value.has(input))
    looking.value = new Set(open)
    for (const input of open) {
      const worker = new SettleWorker()
      workers.push(worker)
      worker.onmessage = ({ data }: MessageEvent<ProgramReport>) => {
        found.value = new Map([...found.value, [input, data]])
        looking.value = new Set([...looking.value].filter(other => other !== input))
        worker.terminate()
      }
      worker.postMessage(toRaw(input))
    }
  }, { immediate: true })
  onScopeDispose(stop)
  /** All reports with what was found; null while nothing was. */
  const settled = computed(() =>
    inputs().some(input => found.value.has(input)) ? reports().map((report, i) => found.value.get(inputs()[i]!) ?? report) : null,
  )
  return { settled, looking: computed(() => inputs().map(input => looking.value.has(input))) }
}
