<script setup lang="ts">
import { sayCatalogProblem, sayCollegeFinding } from '@ridgeway/words'
import { readCollegeCheck } from '#shared/contract/views/office'

/** The college's rules: what is wrong in the catalog, how advising works, and its programs. */
const catalog = useCatalogStore()
const { data, problem, reload } = useView(readCollegeCheck, () => ({}))
watch(() => catalog.stamp, (_, before) => before && void reload())
const words = computed(() => [...catalog.problems.map(sayCatalogProblem), ...(data.value?.findings ?? []).map(sayCollegeFinding)])
const SHOWN = 12
const isWhole = ref(false)
</script>

<template>
  <div class="rules">
    <section class="card problems" aria-label="Check of the catalog">
      <h2>Check of the catalog</h2>
      <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
      <p v-else-if="!data" class="second">Reading rules, lines, sequences and sections …</p>
      <p v-else-if="!words.length" class="second">
        Every rule can be read and met, every line can be filled by who begins now, every suggested sequence keeps its own rules, and the
        hours of sections fit their credits.
      </p>
      <p v-for="one in isWhole ? words : words.slice(0, SHOWN)" :key="one">{{ one }}</p>
      <RestLink v-model="isWhole" :rest="words.length - SHOWN" />
    </section>
    <HowAdvisingWorks />
    <ProgramFiles />
  </div>
</template>

<style scoped>
.rules { display: grid; gap: 12px; }
.problems { padding: 10px 16px; }
p { margin: 2px 0; }
</style>
