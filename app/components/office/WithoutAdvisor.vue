<script setup lang="ts">
import type { z } from 'zod'
import type { readOfficePeople } from '#shared/contract/views/office'

/** Students whom nobody advises: nobody can sign off their terms before they are given somebody below. */
const { students } = defineProps<{ students: z.output<typeof readOfficePeople.output>['advisorless'] }>()
const catalog = useCatalogStore()
const titles = (programs: readonly string[]) => programs.map(id => catalog.programs.get(id)?.title ?? id).join(', ')
</script>

<template>
  <section class="card advisorless" aria-label="Without an advisor">
    <h2>Without an advisor</h2>
    <p class="second">Nobody can sign off their terms. Find them below by name and give them one.</p>
    <ul>
      <li v-for="one in students" :key="one.id">
        <NuxtLink :to="`/student/${one.id}/now`">{{ one.name }}</NuxtLink>
        <span class="second small"> {{ titles(one.programs) || 'no program yet' }}</span>
      </li>
    </ul>
    <p v-if="students.length === 200" class="second small">These are the first 200 by name.</p>
  </section>
</template>

<style scoped>
.advisorless { padding: 10px 16px; max-height: 320px; overflow: auto; }
ul { margin: 4px 0; padding-left: 18px; }
p { margin: 2px 0; }
</style>
