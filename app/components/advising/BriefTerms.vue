<script setup lang="ts">
import { termPhase } from '@ridgeway/core/catalog'
import { formatCredits, shortTermName } from '@ridgeway/words'

/** The terms ahead in a line each, with what is suggested drawn beside what stands. */
const student = useStudentStore()
const catalog = useCatalogStore()
const { today } = useNow()
const { hueOf } = useItems()
const suggested = computed(() => student.state?.suggestions.filter(one => one.plan === student.state?.plan.id) ?? [])
watch(suggested, (now) => {
  student.preview = now.length > 0 ? now.flatMap(one => one.operations) : null
}, { immediate: true })
onBeforeUnmount(() => student.preview = null)
const terms = computed(() => {
  const items = student.shown?.items ?? []
  const before = new Map(student.before ? student.standingPlan.entries.map(entry => [entry.id, entry]) : [])
  const after = new Map(items.map(item => [item.id, item]))
  const used = new Set([...items, ...before.values()].map(one => one.term))
  return catalog.terms.filter(term => used.has(term.code) && termPhase(term, today.value) !== 'past').map(term => ({
    term,
    credits: student.shown?.loads.find(load => load.term === term.code)?.credits ?? 0,
    items: items.filter(item => item.term === term.code)
      .map(item => ({ item, isNew: student.before !== null && item.state === 'planned' && before.get(item.id)?.term !== term.code })),
    gone: [...before.values()].filter(entry => entry.term === term.code && after.get(entry.id)?.term !== term.code),
  }))
})
</script>

<template>
  <section class="card" aria-label="The terms ahead">
    <h2>
      The terms ahead
      <span v-if="suggested.length" class="second small"
        >{{ count(suggested.length, 'suggestion') }} beside what stands · {{ student.state!.name }} takes it, or not</span
      >
    </h2>
    <ul>
      <li v-for="one in terms" :key="one.term.code">
        <span class="strong">{{ shortTermName(one.term) }}</span>
        <span class="second small">{{ formatCredits(one.credits) }} cr</span>
        <span class="courses">
          <CourseBlock
            v-for="{ item, isNew } in one.items"
            :key="item.id"
            compact
            :code="item.course"
            :state="isNew ? 'considering' : item.state"
            :hue="hueOf(item)"
          />
          <s v-for="entry in one.gone" :key="entry.id" class="second small">{{ entry.course }}</s>
        </span>
      </li>
    </ul>
    <p><ActButton :to="`/student/${student.state!.id}/plan?suggest=1`">Suggest changes on the plan</ActButton></p>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 6px 0 0; padding: 0; }
li {
  display: grid; grid-template-columns: 74px 44px 1fr; gap: 8px;
  align-items: center; padding: 3px 0; border-top: 1px solid var(--line-soft);
}
.courses { display: flex; flex-wrap: wrap; gap: 4px 6px; align-items: center; }
p { margin: 8px 0 0; }
</style>
