<script setup lang="ts">
import { isOutOfReach } from '@ridgeway/core/requirements'
import { ruleTitle, sayLost, sayOutOfReach } from '@ridgeway/words'

/** What cannot be reached any more, named once at the top: nothing else on the page matters as much. */
const emit = defineEmits<{ show: [program: string, line: string] }>()
const requirements = useRequirementsStore()
const lost = computed(() =>
  requirements.reports.flatMap(report => [
    ...Object.entries(requirements.unreachable[report.code] ?? {}).map(([line, lost]) => ({ program: report.code, line,
      title: requirements.lineOf(report.code, line)?.title ?? line, words: sayLost(lost) }),
    ),
    ...report.rules.filter(isOutOfReach).map(rule => ({ program: report.code, line: '', title: ruleTitle(rule),
      words: sayOutOfReach(rule) }),
    ),
  ]),
)
</script>

<template>
  <div v-if="lost.length" class="card lost" role="alert">
    <p v-for="one in lost" :key="one.program + one.line + one.title">
      <b>{{ one.title }} cannot be reached any more.</b> {{ one.words }}
      <WordLink v-if="one.line" @click="emit('show', one.program, one.line)">
        Show it<span class="visually-hidden">: {{ one.title }}</span>
      </WordLink>
    </p>
  </div>
</template>

<style scoped>
.lost { border-color: var(--block); background: var(--block-tint); padding: 8px 14px; margin-bottom: 10px; }
p { margin: 2px 0; }
</style>
