<script setup lang="ts">
import type { z } from 'zod'
import { sayMoment } from '@ridgeway/words'
import type { readOfficePeople } from '#shared/contract/views/office'

/** Requests for exceptions without an answer: those that the office decides first. */
const { asked } = defineProps<{ asked: z.output<typeof readOfficePeople.output>['asked'] }>()
const session = useSessionStore()
const inOrder = computed(() => [...asked].sort((a, b) => Number(b.mine) - Number(a.mine)))
</script>

<template>
  <section class="card requests" aria-label="Requests for exceptions">
    <h2>Requests to answer</h2>
    <p v-if="!asked.length" class="second">None. What students ask for that the office decides stands here, the oldest first.</p>
    <ul>
      <li v-for="one in inOrder" :key="one.id">
        <b>{{ one.student.name }}</b> asks for {{ one.words }}
        <span class="second">· {{ sayMoment(one.at, session.zone) }} · “{{ one.reason }}”</span>
        <WordLink v-if="one.mine" :to="`/student/${one.student.id}/now`" :aria-label="`Answer ${one.student.name}`">answer</WordLink>
        <span v-else class="second"> · the advisor decides</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.requests { padding: 10px 16px; }
ul { list-style: none; padding: 0; margin: 4px 0 0; }
li { padding: 4px 0; border-top: 1px solid var(--line-soft); }
p { margin: 2px 0; }
</style>
