/** The one term that every view is about; kept in this browser, the next to open when none was chosen. */
export const useWorkingTermStore = defineStore('working-term', () => {
  const chosen = useLocalStorage<string | null>('ridgeway.working-term', null)
  const catalog = useCatalogStore()
  const { today } = useNow()
  const code = computed(() => {
    const kept = chosen.value && catalog.term(chosen.value)
    return kept && kept.end >= today.value ? kept.code : catalog.nextTerm(today.value)?.code ?? ''
  })
  const term = computed(() => catalog.term(code.value))
  const choices = computed(() => catalog.terms.filter(candidate => candidate.end >= today.value))
  const set = (next: string) => chosen.value = next
  return { code, term, choices, set }
})
