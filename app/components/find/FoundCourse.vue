<script setup lang="ts">
import { formatCredits, sayCountsFor } from '@ridgeway/words'
import type { FoundBundle, FoundCourse } from '#shared/contract/views/find'

/** A course that was found, with every area it would count for, and a row for each of its bundles. */
const { found } = defineProps<{ found: FoundCourse }>()
defineEmits<{
  pick: [bundle: FoundBundle]
  open: [bundle: FoundBundle]
  remember: [bundle: FoundBundle]
  compare: [bundle: FoundBundle]
  plan: []
}>()
const catalog = useCatalogStore()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const course = computed(() => catalog.courses.get(found.course))
const hue = computed(() => found.countsFor[0]?.hue ?? 'slate')
/** Bundles that are listed before all are asked for: those that fit come first. */
const FIRST = 8
const all = ref(false)
const visible = computed(() => all.value ? found.bundles : found.bundles.slice(0, FIRST))
const isPlanned = computed(() => student.entries.some(entry => entry.course === found.course && entry.term === workingTerm.code))
</script>

<template>
  <section :class="`hue-${hue}`" :aria-label="`${found.course} ${course?.title}`">
    <header>
      <h3>{{ found.course }} <span class="title">{{ course?.title }}</span></h3>
      <span class="second">{{ formatCredits(found.credits) }} cr · {{ sayCountsFor(found.countsFor) }}</span>
      <span v-if="isPlanned" class="second small plan">planned</span>
      <WordLink
        v-else-if="student.mayEdit"
        class="small plan"
        :aria-label="`Plan ${found.course} in ${workingTerm.term?.name}`"
        @click="$emit('plan')"
      >
        <span class="kbd">p</span> plan
      </WordLink>
    </header>
    <ul>
      <FoundRow
        v-for="bundle in visible"
        :key="bundle.id"
        :bundle="bundle"
        @pick="$emit('pick', bundle)"
        @open="$emit('open', bundle)"
        @remember="$emit('remember', bundle)"
        @compare="$emit('compare', bundle)"
        @keydown.p="$emit('plan')"
      />
    </ul>
    <RestLink v-model="all" :rest="found.bundles.length - FIRST" />
  </section>
</template>

<style scoped>
section { border-left: 6px solid var(--hue); padding: 5px 0 5px 12px; border-radius: 3px; }
header { display: flex; flex-wrap: wrap; gap: 2px 10px; align-items: baseline; padding-right: 8px; }
h3 { font-size: 14px; }
.title { font-weight: 400; }
.plan { margin-left: auto; }
ul { list-style: none; margin: 0; padding: 0; }
</style>
