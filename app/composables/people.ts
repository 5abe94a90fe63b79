import { refDebounced } from '@vueuse/core'
import { findPeople } from '#shared/contract/views/advising'

/** Letters of a name with which looking begins, and milliseconds after the last of them. */
const LETTERS = 2
const PAUSE_MS = 250

/** Students that are found by name as it is typed, and those who can advise them; null while too little is typed. */
export function usePeople(text: Ref<string>) {
  const typed = refDebounced(text, PAUSE_MS)
  const isEnough = (name: string) => name.trim().length >= LETTERS
  const { data, problem, reload } = useView(findPeople, () => isEnough(typed.value) ? { text: typed.value } : null)
  return { people: computed(() => isEnough(text.value) ? data.value : null), problem, reload }
}
