/** Rows of a list that are chosen one by one or all at once; what leaves the list is chosen no more. */
export function useChosen(ids: () => readonly number[]) {
  const marked = ref<number[]>([])
  const chosen = computed(() => ids().filter(id => marked.value.includes(id)))
  const isAll = computed({
    get: () => chosen.value.length > 0 && chosen.value.length === ids().length,
    set: all => marked.value = all ? [...ids()] : [],
  })
  return { marked, chosen, isAll }
}
