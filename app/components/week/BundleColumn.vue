<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'

/**
 * One course with its bundles: when, where, how many seats, and in words whether it fits; those that meet at the same hours fold
 * together.
 */
const props = defineProps<{ course: string, bundles: BundleView[], hue: string }>()
defineEmits<{ pick: [bundle: BundleView], ghost: [bundle: BundleView | null], open: [bundle: BundleView], backup: [bundle: BundleView] }>()
const catalog = useCatalogStore()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const { free, fits, timesOf } = useBundleWords()
const onlyFitting = ref(false)
const sort = ref<'label' | 'time' | 'seats'>('label')
const unfolded = ref<string[]>([])
const catalogCourse = computed(() => catalog.courses.get(props.course))
const SORTS = { label: 'by number', time: 'earliest first', seats: 'most seats first' } as const
const order: Record<keyof typeof SORTS, (a: BundleView, b: BundleView) => number> = {
  label: () => 0,
  time: (a, b) => earliest(a) - earliest(b),
  seats: (a, b) => free(b) - free(a),
}
const earliest = (bundle: BundleView) => Math.min(1440, ...bundle.sections.flatMap(section => section.meetings.map(meeting =>
  meeting.start)))
const shown = computed(() => props.bundles.filter(bundle => !onlyFitting.value || fits(bundle) || bundle.picked || bundle.registered)
  .sort(order[sort.value]))
/** Bundles at the same hours: the one that is chosen or fits stands for them. */
const folds = computed(() => {
  const groups = new Map<string, BundleView[]>()
  for (const bundle of shown.value) groups.set(timesOf(bundle), [...groups.get(timesOf(bundle)) ?? [], bundle])
  const first = (bundle: BundleView) => bundle.registered || bundle.picked ? 0 : fits(bundle) ? 1 : 2
  return [...groups].map(([key, list]) => ({ key, list: [...list].sort((a, b) => first(a) - first(b) || free(b) - free(a)) }))
})
const visible = ({ key, list }: { key: string, list: BundleView[] }) => unfolded.value.includes(key) ? list : list.slice(0, 1)
const toggle = (key: string) => unfolded.value = unfolded.value.includes(key)
  ? unfolded.value.filter(one => one !== key)
  : [...unfolded.value, key]
const fitting = computed(() => props.bundles.filter(fits).length)
const notPlanned = computed(() => !student.standing?.items.some(item => item.course === props.course && item.term === workingTerm.code
  && item.state !== 'completed'))
</script>

<template>
  <section class="card column" :class="`hue-${hue}`" :aria-label="`Bundles of ${course}`">
    <header>
      <h2>{{ course }} {{ catalogCourse?.title }}</h2>
      <span class="second">{{ formatCredits(catalogCourse?.credits ?? 0) }} cr</span>
    </header>
    <p v-if="notPlanned" class="small second apart">not in your plan</p>
    <ul>
      <template v-for="fold in folds" :key="fold.key">
        <BundleRow
          v-for="bundle in visible(fold)"
          :key="bundle.id"
          :bundle="bundle"
          @pick="$emit('pick', bundle)"
          @ghost="$emit('ghost', $event ? bundle : null)"
          @open="$emit('open', bundle)"
          @backup="$emit('backup', bundle)"
        />
        <li v-if="fold.list.length > 1" class="fold">
          <WordLink class="small" :aria-expanded="unfolded.includes(fold.key)" @click="toggle(fold.key)">
            {{ unfolded.includes(fold.key) ? 'fold' : `${fold.list.length - 1} more at the same hours` }}
          </WordLink>
        </li>
      </template>
      <li v-if="bundles.length === 0" class="none second">No sections in this term.</li>
    </ul>
    <footer v-if="bundles.length > 1">
      <WordLink class="small" :aria-pressed="onlyFitting" @click="onlyFitting = !onlyFitting">
        {{ onlyFitting ? `Show all ${bundles.length}` : `Only what fits (${fitting})` }}
      </WordLink>
      <v-menu>
        <template #activator="{ props: menu }"><WordLink v-bind="menu" class="small">{{ SORTS[sort] }} ▾</WordLink></template>
        <v-list
          :aria-label="`Order of ${course}`"
        >
          <v-list-item v-for="(words, key) in SORTS" :key="key" :title="words" :active="key === sort" @click="sort = key" /></v-list>
      </v-menu>
    </footer>
  </section>
</template>

<style scoped>
.column { border-top: 4px solid var(--hue); overflow: clip; }
/* Whose bundles they are stays in sight under the week. */
header {
  position: sticky; top: var(--head-bar, 0px); z-index: 2; display: flex; justify-content: space-between; gap: 8px; padding: 6px 10px;
  align-items: baseline; background: var(--surface);
}
h2 { font-size: 14px; }
header .second { white-space: nowrap; }
ul { list-style: none; padding: 0; margin: 0; }
.none { padding: 8px 10px; border-top: 1px solid var(--line-soft); }
.fold { padding: 1px 10px 4px; }
.apart { margin: -4px 10px 4px; }
footer { border-top: 1px solid var(--line-soft); padding: 4px 10px; display: flex; justify-content: space-between; }
</style>
