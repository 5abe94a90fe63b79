<script setup lang="ts">
import type { Commitment } from '@ridgeway/core/catalog'

/** One course, drawn by how firmly it is committed. The same block stands in every view. */
const props = defineProps<{
  code: string
  title?: string
  state: Commitment | 'considering' | 'waitlist' | 'open'
  hue?: string
  corner?: string
  /** Share of the term that has gone by, for a course under way. */
  done?: number
  offPath?: boolean
  compact?: boolean
  problems?: number
  blocking?: boolean
  /** Its use is pinned here. */
  pinned?: boolean
}>()

const stateClass = computed(() => props.state.replace(' ', '-'))
const said = computed(() =>
  [props.code, props.title, props.state === 'open' ? 'open' : props.state, props.corner, props.offPath ? 'counts for nothing yet' : '',
    props.pinned ? 'pinned here' : '', props.problems ? `${props.problems} ${props.problems === 1 ? 'problem' : 'problems'}` : ''].filter(
    Boolean,
  ).join(', '),
)
</script>

<template>
  <span
    class="commit course-block"
    :class="[stateClass, hue && `hue-${hue}`, { 'off-path': offPath, compact }]"
    :style="{ '--done': `${Math.round((done ?? 0.5) * 100)}%` }"
    :title="said"
  >
    <span class="code">{{ code }}</span>
    <span v-if="title && !compact" class="title">{{ title }}</span>
    <span v-if="corner" class="corner">{{ corner }}</span>
    <span v-if="pinned" class="pin" aria-hidden="true" />
    <span v-if="problems" class="notch" :class="{ blocking }">{{ problems }}</span>
    <span class="visually-hidden"
      >, {{ state }}<template v-if="offPath">, counts for nothing yet</template><template v-if="pinned">, pinned here</template></span
    >
  </span>
</template>

<style scoped>
.course-block { display: block; padding: 3px 8px 4px; min-height: 40px; line-height: 1.25; text-align: left; }
.code { font-weight: 700; font-size: 13px; white-space: nowrap; }
.title { display: block; font-size: 12px; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; padding-right: 14px; }
.corner { position: absolute; right: 6px; bottom: 3px; font-size: 12px; font-weight: 700; }
.compact { min-height: 28px; padding: 3px 7px; }
.compact .code { font-size: 12px; }
.compact .corner { bottom: 4px; font-size: 11px; }
.pin {
  position: absolute; top: -4px; left: 8px; width: 8px; height: 8px; border-radius: 50%; background: var(--act);
  border: 1.5px solid var(--surface);
}
.notch {
  position: absolute; top: -7px; right: -7px; min-width: 17px; height: 17px; padding: 0 4px; border-radius: 3px;
  font-size: 11px; line-height: 15px; text-align: center; font-weight: 700; border: 1.5px solid var(--block);
  color: var(--block); background: var(--surface);
}
.notch.blocking { background: var(--block); color: rgb(var(--v-theme-surface)); }
</style>
