import type { Weekday } from '@ridgeway/core/catalog'
import type { Weight, Wish } from '@ridgeway/core/weeks'
import { sayWish } from '@ridgeway/words'
import { createSharedComposable } from '@vueuse/core'

type Block = Extract<Wish, { kind: 'keep free' }>
/**
 * Blocks of the week that are kept free: wishes like the others, with a name, and an offer to take the last change back, whether it was
 * made in the week or in the form.
 */
export const useKeepFree = createSharedComposable(() => {
  const week = useWeekStore()
  const blocks = computed(() => week.wishes.filter((wish): wish is Block => wish.kind === 'keep free'))
  const words = ref('')
  const offersUndo = useUndoOffer()
  let before: Wish[] | null = null
  function change(next: Wish[], said: string) {
    before = week.wishes
    words.value = said
    offersUndo.value = true
    announce(said)
    return week.keepWishes(next)
  }
  const keep = (values: { days: Weekday[], start: number, end: number, name?: string, weight?: Weight }) => {
    const block = { ...makeWish('keep free', { weight: 'hard' }), ...values } as Block
    return change([...week.wishes, block], `${sayWish(block)}.`)
  }
  const keepAll = (list: { days: Weekday[], start: number, end: number, name: string }[]) =>
    change([...week.wishes, ...list.map(values => ({ ...makeWish('keep free', { weight: 'hard' }), ...values }) as Block)],
      `${count(list.length, 'block')} kept free.`)
  function release(id: string) {
    const block = blocks.value.find(one => one.id === id)
    if (block) void change(week.wishes.filter(one => one.id !== id), `${sayWish(block)}: let go.`)
  }
  function move(id: string, start: number, end: number) {
    const block = blocks.value.find(one => one.id === id)
    if (block) void change(week.wishes.map(one => one === block ? { ...block, start, end } : one), `${sayWish({ ...block, start, end })}.`)
  }
  async function undo() {
    if (before) await week.keepWishes(before)
    announce('Taken back.')
  }
  return { blocks, words, offersUndo, keep, keepAll, release, move, undo }
})
