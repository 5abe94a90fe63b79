<script setup lang="ts">
import type { z } from 'zod'
import { sayMoment } from '@ridgeway/words'
import type { readServer } from '#shared/contract/views/college'

/** The last requests that took long, each with what it waited for, as stretches of its whole time. */
const { slow } = defineProps<{ slow: z.output<typeof readServer.output>['slow'] }>()
const session = useSessionStore()
const restOf = (one: typeof slow[number]) => Math.max(0, one.ms - one.spans.reduce((sum, span) => sum + span.ms, 0))
const left = (at: number, ms: number) => `${Math.min(100, 100 * at / ms)}%`
</script>

<template>
  <section class="card slow" aria-labelledby="slow-head">
    <h2 id="slow-head">Slow lately</h2>
    <ol>
      <li v-for="(one, i) in slow" :key="i">
        <span><b>{{ one.method }}</b> {{ one.route }} <span class="second small">{{ sayMoment(one.at, session.zone) }}</span></span>
        <span class="figure">{{ one.ms }} ms</span>
        <span class="bar" aria-hidden="true">
          <span
            v-for="(span, n) in one.spans" :key="n" class="span" :class="{ waits: span.what.startsWith('waited') }"
            :style="{ left: left(span.at, one.ms), width: left(span.ms, one.ms) }"
          />
        </span>
        <span class="second small words">{{ one.spans.map(span => `${span.what} ${span.ms} ms`).join(' · ') || 'no database' }}
          · working and waiting otherwise {{ restOf(one) }} ms</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.slow { padding: 10px 16px; margin: 12px 0; }
ol { list-style: none; padding: 0; margin: 6px 0 0; }
li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 12px; border-top: 1px solid var(--line-soft); padding: 6px 0; }
.bar { position: relative; grid-column: 1 / -1; height: 6px; background: var(--line-soft); border-radius: 3px; }
.span { position: absolute; top: 0; bottom: 0; background: var(--act); border-radius: 3px; }
.span.waits { background: var(--block); }
.words { grid-column: 1 / -1; }
</style>
