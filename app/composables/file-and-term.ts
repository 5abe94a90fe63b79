/** Whose file and which term the page is about, as one word: what was asked, done or offered for another says nothing here. */
export const useFileAndTerm = () => {
  const student = useStudentStore()
  const workingTerm = useWorkingTermStore()
  return computed(() => `${student.state?.id} ${workingTerm.code}`)
}

/** An offer to take back what was done; it goes when the page turns to another file or term, where there is nothing to take back. */
export const useUndoOffer = () => {
  const offersUndo = ref(false)
  watch(useFileAndTerm(), () => offersUndo.value = false)
  return offersUndo
}
