<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'
import { clockTime } from '@ridgeway/words'
import type { WeekBar } from '~/composables/week/ribbon'

/** The week on its side: days are rows, hours run across, so that codes, times and rooms read as text. */
const props = defineProps<{ bars: WeekBar[] }>()

const NAMES: Record<Weekday, string> = { M: 'Mon', T: 'Tue', W: 'Wed', R: 'Thu', F: 'Fri', S: 'Sat', U: 'Sun' }
const from = computed(() => Math.min(8 * 60, ...props.bars.map(bar => Math.floor(bar.meeting.start / 60) * 60)))
const to = computed(() => Math.max(18 * 60, ...props.bars.map(bar => Math.ceil(bar.meeting.end / 60) * 60)))
const hours = computed(() => Array.from({ length: (to.value - from.value) / 60 }, (_, i) => from.value + i * 60))
const days = computed(() =>
  (['M', 'T', 'W', 'R', 'F', 'S', 'U'] as Weekday[]).filter(day =>
    'MTWRF'.includes(day) || props.bars.some(bar => bar.meeting.days.includes(day)),
  ),
)
const left = (minute: number) => `${(minute - from.value) / (to.value - from.value) * 100}%`

const titleOf = ({ label, part, meeting, where, session, state, clash }: WeekBar) =>
  [`${label} ${part}`.trim(), `${clockTime(meeting.start)}–${clockTime(meeting.end)}`, `${where}${SESSION[session] ?? ''}`, state, clash]
    .filter(Boolean).join(', ')

/** Bars of a day in as few rows as keep them from covering each other (halves of a term may share hours). */
function rowsOf(day: Weekday): (WeekBar & { row: number })[] {
  const mine = props.bars.filter(bar => bar.meeting.days.includes(day)).sort((a, b) =>
    a.meeting.start - b.meeting.start || a.key.localeCompare(b.key),
  )
  const ends: number[] = []
  return mine.map((bar) => {
    let row = ends.findIndex(end => end <= bar.meeting.start)
    if (row < 0) row = ends.length
    ends[row] = bar.meeting.end
    return { ...bar, row }
  })
}
const layout = computed(() =>
  days.value.map((day) => {
    const bars = rowsOf(day)
    return { day, bars, rows: Math.max(1, ...bars.map(bar => bar.row + 1)) }
  }),
)
// On a narrow screen the first class is in sight, not an empty morning.
const scroller = useTemplateRef<HTMLElement>('scroller')
onMounted(() => {
  const first = Math.min(...props.bars.map(bar => bar.meeting.start))
  const box = scroller.value
  if (box && Number.isFinite(first)) box.scrollLeft = Math.max(0, (first - 60 - from.value) / (to.value - from.value) * box.scrollWidth)
})
const SESSION: Record<string, string> = { first: ', first half', second: ', second half' }
</script>

<template>
  <div ref="scroller" class="scroll" tabindex="0" role="region" aria-label="Week, days as rows and hours across">
    <div class="ribbon">
      <div class="hours" aria-hidden="true">
        <span v-for="hour in hours" :key="hour" :style="{ left: left(hour) }">{{ clockTime(hour) }}</span>
      </div>
      <div class="card days">
        <div v-for="{ day, bars: dayBars, rows } in layout" :key="day" class="day" :style="{ minHeight: `${rows * 50 + 8}px` }">
          <div class="day-name">{{ NAMES[day] }}</div>
          <div class="line" role="list" :aria-label="NAMES[day]">
            <i v-for="hour in hours" :key="hour" :style="{ left: left(hour) }" aria-hidden="true" />
            <div
              v-for="bar in dayBars"
              :key="bar.key"
              role="listitem"
              class="bar commit"
              :class="[bar.state, `hue-${bar.hue}`]"
              :style="{
                left: left(bar.meeting.start),
                width: `calc(${left(bar.meeting.end)} - ${left(bar.meeting.start)} - 2px)`,
                top: `${bar.row * 50 + 4}px`,
              }"
              :title="titleOf(bar)"
            >
              <span class="strong label">{{ bar.label }} {{ bar.part }}</span>
              <span v-if="bar.clash" class="where blocking strong">{{ bar.clash }}</span>
              <span v-else class="where">{{ clockTime(bar.meeting.start) }} · {{ bar.where }}{{ SESSION[bar.session] ?? '' }}</span>
              <span v-if="bar.clash" class="notch" aria-hidden="true">!</span>
              <span class="visually-hidden">, {{ bar.state }}</span>
            </div>
          </div>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroll { overflow-x: auto; }
.ribbon { min-width: 760px; }
.hours { position: relative; height: 18px; margin-left: 60px; font-size: 12px; color: var(--second); }
.hours span { position: absolute; transform: translateX(-2px); }
.day { display: grid; grid-template-columns: 59px 1fr; border-top: 1px solid var(--line-soft); }
.day:first-child { border-top: 0; }
.day-name { position: sticky; left: 0; z-index: 1; background: var(--surface); padding: 14px; font-weight: 700; }
.line { position: relative; }
.line i { position: absolute; top: 0; bottom: 0; border-left: 1px solid var(--line-soft); }
.bar {
  position: absolute; height: 46px; padding: 3px 7px; overflow: hidden;
  line-height: 1.25; font-size: 13px; container: bar / inline-size;
}
.bar > span { display: block; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.where { font-size: 11.5px; }
/* Where a class is short, its code is read before its place. */
@container bar (max-width: 72px) {
  .bar > .label { white-space: normal; }
  .where { display: none !important; }
}
.notch {
  position: absolute; top: 0; right: 0; width: 17px; border-radius: 0 3px; text-align: center; font-size: 11.5px; font-weight: 700;
  background: var(--block); color: var(--surface);
}
</style>
