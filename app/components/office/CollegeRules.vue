<script setup lang="ts">
import { sayCatalogProblem } from '@ridgeway/words'

/** The college's rules: what is wrong in the catalog, how advising works, and its programs. */
const catalog = useCatalogStore()
</script>

<template>
  <div class="rules">
    <section v-if="catalog.problems.length" class="card problems" aria-label="Problems of the catalog">
      <h2>The catalog has {{ count(catalog.problems.length, 'problem') }}</h2>
      <p v-for="(one, i) in catalog.problems" :key="i" class="blocking">{{ sayCatalogProblem(one) }}</p>
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
