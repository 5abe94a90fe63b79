<script setup lang="ts">
import { readServer } from '#shared/contract/views/college'

/** How the server that answers does: what it was asked since it started and how long that took. Read again every few seconds. */
const { data, problem, reload } = useView(readServer, () => ({}))
useIntervalFn(() => document.visibilityState === 'visible' && void reload(), 5000)
const about = computed(() => {
  if (!data.value) return ''
  const minutes = Math.round(data.value.up / 60)
  if (minutes < 120) return `running for ${count(minutes, 'minute')}`
  const hours = Math.round(minutes / 60)
  return `running for ${hours < 48 ? count(hours, 'hour') : count(Math.round(hours / 24), 'day')}`
})
const answered = computed(() => data.value?.routes.reduce((sum, one) => sum + one.count, 0) ?? 0)
const failed = computed(() => data.value?.routes.reduce((sum, one) => sum + one.failed, 0) ?? 0)
const headers = [
  { title: 'Route', key: 'route' },
  { title: 'Answered', key: 'count', align: 'end' as const },
  { title: 'Failed here', key: 'failed', align: 'end' as const },
  { title: 'Half within', key: 'median', align: 'end' as const },
  { title: '95 of 100 within', key: 'p95', align: 'end' as const },
]
</script>

<template>
  <div class="page">
    <PageHead title="This server" :about="about"><WordLink to="/office/ledger">What happened</WordLink></PageHead>
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <GreyShapes v-if="!data && !problem" />
    <template v-if="data">
      <dl class="card figures">
        <div>
          <dt>Answered</dt>
          <dd>{{ answered }}</dd>
        </div>
        <div>
          <dt>Failed by its own fault</dt>
          <dd :class="{ blocking: failed > 0 }">{{ failed }}</dd>
        </div>
        <div>
          <dt>Pages that listen</dt>
          <dd>{{ data.pages }}</dd>
        </div>
        <div>
          <dt>Memory</dt>
          <dd>{{ Math.round(data.memory / 1e6) }} MB</dd>
        </div>
        <div>
          <dt>Keeps others waiting, at most</dt>
          <dd>{{ data.lag }} ms</dd>
        </div>
      </dl>
      <DatabaseNodes v-if="data.nodes.length" :nodes="data.nodes" />
      <v-data-table class="card" :headers="headers" :items="data.routes" :items-per-page="25">
        <template #[`item.route`]="{ item }"><b>{{ item.method }}</b> {{ item.route }}</template>
        <template #[`item.failed`]="{ item }"
          ><span :class="{ blocking: item.failed > 0 }">{{ item.failed || 'none' }}</span></template
        >
        <template #[`item.median`]="{ item }">{{ item.median }} ms</template>
        <template #[`item.p95`]="{ item }">{{ item.p95 }} ms</template>
      </v-data-table>
      <SlowRequests v-if="data.slow.length" :slow="data.slow" />
      <p class="second small">
        Where several servers run, each counts for itself, and this is the one that answered you. Other programs read the same at
        /api/metrics with <WordLink to="/tokens">a token that reads</WordLink>.
      </p>
    </template>
  </div>
</template>

<style scoped>
.figures { display: flex; flex-wrap: wrap; gap: 8px 32px; padding: 10px 16px; margin: 0 0 12px; }
dt { color: var(--second); }
dd { margin: 0; font-weight: 700; font-size: 1.15rem; }
</style>
