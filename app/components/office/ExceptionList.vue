<script setup lang="ts">
import type { z } from 'zod'
import type { ExceptionKind } from '@ridgeway/core/advising'
import { formatCredits, sayExceptionKind } from '@ridgeway/words'
import type { readOfficePeople } from '#shared/contract/views/office'

/** Exceptions in force, the newest first, narrowed by kind. They are taken back in the student's file, by whoever may grant them. */
type Exceptions = z.output<typeof readOfficePeople.output>['exceptions']
const { exceptions } = defineProps<{ exceptions: Exceptions }>()
const catalog = useCatalogStore()
const kinds = ref<string[]>([])
const SHOWN = 12
const isOpen = ref(false)
const choices = computed(() => [...new Set(exceptions.map(one => one.kind))].sort().map(kind => ({ value: kind,
  words: sayExceptionKind(kind as ExceptionKind), count: exceptions.filter(one => one.kind === kind).length })))
const narrowed = computed(() => exceptions.filter(one => kinds.value.length === 0 || kinds.value.includes(one.kind)))
const rows = computed(() => isOpen.value ? narrowed.value : narrowed.value.slice(0, SHOWN))
const about = (one: Exceptions[number]) => [one.course, one.term && catalog.term(one.term)?.name,
  one.kind === 'load' && one.value !== null && `${formatCredits(one.value)} cr`, one.until && `until ${longDate(one.until)}`]
  .filter(Boolean).join(' · ')
</script>

<template>
  <section class="card exceptions" aria-label="Exceptions in force">
    <h2>Exceptions in force</h2>
    <p v-if="!exceptions.length" class="second">None.</p>
    <FilterChips v-else-if="choices.length > 1" v-model="kinds" label="Kinds" :choices="choices" />
    <ul>
      <li v-for="one in rows" :key="one.id">
        <NuxtLink :to="`/student/${one.student.id}/now`"><b>{{ one.student.name }}</b></NuxtLink>
        {{ sayExceptionKind(one.kind as ExceptionKind) }}<template v-if="about(one)"> · {{ about(one) }}</template>
        <span class="second small"> by {{ one.by }}: {{ one.reason }}</span>
      </li>
    </ul>
    <RestLink v-model="isOpen" :rest="narrowed.length - SHOWN" />
  </section>
</template>

<style scoped>
.exceptions { padding: 10px 16px; }
ul { list-style: none; padding: 0; margin: 4px 0; }
li { padding: 3px 0; border-top: 1px solid var(--line-soft); }
p { margin: 2px 0; }
</style>
