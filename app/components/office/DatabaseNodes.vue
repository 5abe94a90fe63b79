<script setup lang="ts">
import type { z } from 'zod'
import type { readServer } from '#shared/contract/views/college'

/** The databases of a cluster as this server sees them: which serve, and which one takes what is written. */
const { nodes } = defineProps<{ nodes: z.output<typeof readServer.output>['nodes'] }>()
const away = computed(() => nodes.filter(node => !node.isUp).length)
const isAlone = computed(() => nodes.length - away.value < 2)
</script>

<template>
  <section class="card nodes" aria-labelledby="nodes-head">
    <h2 id="nodes-head">Databases</h2>
    <ul>
      <li v-for="node in nodes" :key="node.name">
        <b>{{ node.name }}</b>
        <span :class="{ blocking: !node.isUp }">{{
          !node.isUp ? 'away' : node.isWriter ? 'serves, and takes what is written' : 'serves readings, ready to take over'
        }}</span>
      </li>
    </ul>
    <p v-if="away" class="second small">
      {{ isAlone ? 'One more that goes away, and nobody is served.' : 'People are served by the others.' }}
      Bring it back: docs/operations.md says how.
    </p>
  </section>
</template>

<style scoped>
.nodes { padding: 10px 16px; margin: 0 0 12px; }
h2 { font-size: 1rem; margin: 0 0 4px; }
ul { list-style: none; padding: 0; margin: 0; }
li { display: flex; gap: 12px; flex-wrap: wrap; }
p { margin: 6px 0 0; }
</style>
