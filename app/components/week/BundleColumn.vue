<script setup lang="ts">
import type { Section, Weekday } from '@ridgeway/core/catalog'
import { seatsFor } from '@ridgeway/core/registration'
import { formatCredits, sayFinding } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'

/** One planned course with its bundles: when, where, how many seats, and in words whether it fits. */
const props = defineProps<{ course: string, bundles: BundleView[], hue: string }>()
defineEmits<{ pick: [bundle: BundleView], ghost: [bundle: BundleView | null] }>()
const catalog = useCatalogStore()
const student = useStudentStore()
const onlyFitting = ref(false)
const catalogCourse = computed(() => catalog.courses.get(props.course))
const shown = computed(() =>
  props.bundles.filter(bundle => !onlyFitting.value || bundle.decision.outcome === 'register' || bundle.picked || bundle.registered),
)
const DAYS: Weekday[] = ['M', 'T', 'W', 'R', 'F']
const days = (bundle: BundleView) =>
  new Set(bundle.sections.flatMap((section: Section) => section.meetings.flatMap(meeting => meeting.days)))
const free = (bundle: BundleView) =>
  Math.min(...bundle.sections.map((section: Section) => seatsFor(section, student.groups)))
const waiting = (bundle: BundleView) => Math.max(...bundle.sections.map((section: Section) => section.waiting))
const refusal = (bundle: BundleView) => bundle.decision.findings.find(finding => !finding.ok && finding.code !== 'duplicate')
const mayPick = (bundle: BundleView) => !bundle.registered && student.isOwn
const saySeats = (bundle: BundleView) =>
  bundle.registered
    ? 'registered'
    : free(bundle) > 0 ? `${free(bundle)} left` : `full${waiting(bundle) ? ` · ${waiting(bundle)} wait` : ''}`
/** Everything that the row shows, for who hears it. */
const sayBundle = (bundle: BundleView) =>
  [`${props.course}-${bundle.sections[0]!.label}`, bundle.times, where(bundle), session(bundle), saySeats(bundle),
    bundle.registered ? '' : refusal(bundle) ? sayFinding(refusal(bundle)!).words : 'fits'].filter(Boolean).join(', ')
const where = (bundle: BundleView) =>
  [...new Set(bundle.sections.flatMap((s: Section) => s.meetings.map(m => catalog.siteName(m.site))))].join(' + ') || 'Online, any time'
const session = (bundle: BundleView) =>
  ({ first: 'first half', second: 'second half' } as Record<string, string>)[bundle.sections[0]!.session]
</script>

<template>
  <section class="card column" :class="`hue-${hue}`" :aria-label="`Bundles of ${course}`">
    <header>
      <h2>{{ course }} {{ catalogCourse?.title }}</h2>
      <span class="second">{{ formatCredits(catalogCourse?.credits ?? 0) }} cr</span>
    </header>
    <ul>
      <li
        v-for="bundle in shown"
        :key="bundle.id"
        :class="{ chosen: bundle.picked || bundle.registered }"
        @mouseenter="$emit('ghost', bundle)"
        @mouseleave="$emit('ghost', null)"
      >
        <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a row of bundles is a mark of our own, pressed as a whole -->
        <button
          type="button"
          class="mark"
          :aria-disabled="!mayPick(bundle) || undefined"
          :aria-pressed="bundle.picked"
          :aria-label="sayBundle(bundle)"
          @click="mayPick(bundle) && $emit('pick', bundle)"
          @focus="$emit('ghost', bundle)"
          @blur="$emit('ghost', null)"
        >
          <span class="first">
            <span class="glyph" aria-hidden="true"><i v-for="day in DAYS" :key="day" :class="{ on: days(bundle).has(day) }" /></span>
            <b>{{ bundle.sections[0]!.label }}</b>
            <span class="seats" :class="{ second: free(bundle) > 0 }">{{ saySeats(bundle) }}</span>
          </span>
          <span class="times">{{ bundle.times }}</span>
          <span class="small second"
            >{{ where(bundle) }}<template v-if="session(bundle)"> · {{ session(bundle) }}</template> ·
            {{ bundle.sections[0]!.instructors.join(', ') }}</span
          >
          <span v-if="!bundle.registered" class="small" :class="refusal(bundle) ? 'blocking' : 'fits'"
            >{{ bundle.picked ? 'picked · ' : '' }}{{ refusal(bundle) ? sayFinding(refusal(bundle)!).words : 'fits' }}</span
          >
        </button>
      </li>
      <li v-if="bundles.length === 0" class="none second">No sections in this term.</li>
    </ul>
    <footer v-if="bundles.some(b => b.decision.outcome === 'refused' && !b.registered)">
      <WordLink class="small" :aria-pressed="onlyFitting" @click="onlyFitting = !onlyFitting">
        {{
          onlyFitting ? `Show all ${bundles.length}` : `Only what fits (${bundles.filter(b => b.decision.outcome === 'register').length})`
        }}
      </WordLink>
    </footer>
  </section>
</template>

<style scoped>
.column { border-top: 4px solid var(--hue); overflow: hidden; }
header { display: flex; justify-content: space-between; gap: 8px; padding: 7px 12px; align-items: baseline; }
h2 { font-size: 14px; }
header .second { white-space: nowrap; }
ul { list-style: none; padding: 0; margin: 0; }
li { border-top: 1px solid var(--line-soft); }
li.chosen { background: var(--act-tint); }
li button { display: block; width: 100%; text-align: left; background: none; border: 0; padding: 6px 12px 7px; cursor: pointer; }
li button:hover:enabled { background: color-mix(in srgb, var(--act-tint) 60%, transparent); }
li button:disabled { cursor: default; }
li button > span { display: block; }
.first { display: flex !important; align-items: center; gap: 8px; }
.seats { margin-left: auto; }
.glyph { display: inline-flex; gap: 2px; }
.glyph i { width: 6px; height: 13px; border-radius: 1px; background: var(--line); }
.glyph i.on { background: var(--ink); }
.times { font-weight: 600; font-size: 13px; }
.fits { color: var(--second); }
.none { padding: 8px 12px; }
footer { border-top: 1px solid var(--line-soft); padding: 5px 12px; }
</style>
