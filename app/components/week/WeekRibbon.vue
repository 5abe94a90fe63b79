<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'
import { clockTime, DAY_NAMES } from '@ridgeway/words'
import type { FreeBlock, WeekBar, WeekDay } from '~/composables/week/ribbon'

/**
 * The week on its side: days are rows, hours run across, so that codes, times and rooms read as text. With `dates` it is the week of those
 * dates. Where `mayKeep`, hours are kept free by drawing over them.
 */
const props = defineProps<{
  bars: WeekBar[]
  free?: readonly FreeBlock[]
  dates?: Record<Weekday, WeekDay> | null
  mayKeep?: boolean
  /** Days that have a row whatever the bars are. */
  allDays?: ReadonlySet<Weekday>
}>()
const emit = defineEmits<{
  keep: [block: { day: Weekday, start: number, end: number }]
  release: [id: string]
  /** A block that is kept free is moved to other hours. */
  move: [id: string, start: number, end: number]
  open: [bundle: string]
}>()

const free = computed(() => props.free ?? [])
const from = computed(() => Math.min(8 * 60, ...[...props.bars.map(bar => bar.meeting.start), ...free.value.map(one => one.start)]
  .map(start => Math.floor(start / 60) * 60)))
const to = computed(() => Math.max(18 * 60, ...[...props.bars.map(bar => bar.meeting.end), ...free.value.map(one => one.end)]
  .map(end => Math.ceil(end / 60) * 60)))
const hours = computed(() => Array.from({ length: (to.value - from.value) / 60 }, (_, i) => from.value + i * 60))
const days = computed(() =>
  (['M', 'T', 'W', 'R', 'F', 'S', 'U'] as Weekday[]).filter(day =>
    'MTWRF'.includes(day) || props.allDays?.has(day) || props.bars.some(bar => bar.meeting.days.includes(day))
    || free.value.some(one => one.days.includes(day)),
  ),
)
const spanOf = ({ start, end }: { start: number, end: number }) => ({ left: left(start),
  width: `calc(${left(end)} - ${left(start)} - 2px)` })
const left = (minute: number) => `${(minute - from.value) / (to.value - from.value) * 100}%`
/**
 * Bars of a day in as few rows as keep them from covering each other (halves of a term may share hours). The one that is pointed at takes
 * a free place in these rows, or lies over the first: the ribbon keeps its height, and so nothing moves under the pointer.
 */
function rowsOf(day: Weekday): (WeekBar & { row: number })[] {
  const mine = props.bars.filter(bar => bar.meeting.days.includes(day)).sort((a, b) =>
    a.meeting.start - b.meeting.start || a.key.localeCompare(b.key),
  )
  const ends: number[] = []
  const firm = mine.filter(bar => bar.state !== 'considering').map((bar) => {
    let row = ends.findIndex(end => end <= bar.meeting.start)
    if (row < 0) row = ends.length
    ends[row] = bar.meeting.end
    return { ...bar, row }
  })
  const isFree = ({ start, end }: WeekBar['meeting'], row: number) =>
    firm.every(bar => bar.row !== row || bar.meeting.end <= start || bar.meeting.start >= end)
  const pointed = mine.filter(bar => bar.state === 'considering')
    .map(bar => ({ ...bar, row: Math.max(0, ends.findIndex((_, row) => isFree(bar.meeting, row))) }))
  return [...firm, ...pointed]
}
const layout = computed(() =>
  days.value.map((day) => {
    const bars = rowsOf(day)
    return { day, bars, blocks: free.value.filter(one => one.days.includes(day)), rows: Math.max(1, ...bars.map(bar => bar.row + 1)),
      date: props.dates?.[day] }
  }),
)
// On a narrow screen the first class is in sight, not an empty morning.
const scroller = useTemplateRef<HTMLElement>('scroller')
useRoving(scroller, '.name')
onMounted(() => {
  const first = Math.min(...props.bars.map(bar => bar.meeting.start))
  const box = scroller.value
  if (box && Number.isFinite(first)) box.scrollLeft = Math.max(0, (first - 60 - from.value) / (to.value - from.value) * box.scrollWidth)
})
const { height } = useElementSize(scroller)
const { height: screen } = useWindowSize()
const isWide = useMediaQuery('(min-width: 900px)')
const stays = computed(() => isWide.value && height.value > 0 && height.value < screen.value * 0.5)
useEdgeHeight('--head-bar', () => stays.value ? height.value : 0)
const { drawn, begin, move } = useDrawnBlock(() => props.mayKeep === true, () => ({ from: from.value, to: to.value }),
  block => emit('keep', block), (id, start, end) => emit('move', id, start, end))
</script>

<template>
  <div ref="scroller" class="scroll" :class="{ stays }" tabindex="0" role="region" aria-label="Week, days as rows and hours across">
    <div class="ribbon">
      <div class="hours" aria-hidden="true">
        <span v-for="hour in hours" :key="hour" :style="{ left: left(hour) }">{{ clockTime(hour) }}</span>
      </div>
      <div class="card days">
        <div
          v-for="{ day, bars: dayBars, blocks, rows, date } in layout"
          :key="day"
          class="day"
          :class="{ off: date?.free }"
          :style="{ minHeight: `${rows * 50 + 8}px` }"
        >
          <div class="day-name">
            {{ DAY_NAMES[day].slice(0, 3) }}
            <span v-if="date" class="date">{{ longDate(date.date).replace(/ \d{4}$/, '') }}</span>
          </div>
          <div class="line" role="list" :aria-label="DAY_NAMES[day]" @pointerdown="begin(day, $event)">
            <i v-for="hour in hours" :key="hour" :style="{ left: left(hour) }" aria-hidden="true" />
            <span v-if="date?.note" class="note" role="listitem">{{ date.note }}</span>
            <FreeHours
              v-for="block in blocks"
              :key="block.id"
              role="listitem"
              :block="block"
              :day="day"
              :may-change="mayKeep ?? false"
              class="hours-of"
              :style="spanOf(block)"
              @release="emit('release', block.id)"
              @shift="emit('move', block.id, block.start + $event, block.end + $event)"
              @pointerdown="move(day, block, $event)"
            />
            <div
              v-if="drawn?.day === day"
              class="drawn"
              :style="spanOf(drawn)"
            >
              {{ clockTime(drawn.start) }}–{{ clockTime(drawn.end) }}
            </div>
            <ClassBar
              v-for="bar in dayBars"
              :key="bar.key"
              role="listitem"
              :bar="bar"
              class="class-bar"
              :style="{ ...spanOf(bar.meeting), top: `${bar.row * 50 + 4}px` }"
              @open="emit('open', bar.bundle)"
            />
          </div>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroll { overflow-x: auto; }
/* Bundles are compared with the week in sight, where it leaves them room. */
.stays { position: sticky; top: 0; z-index: 4; background: var(--paper); }
.ribbon { min-width: 760px; }
.hours { position: relative; height: 18px; margin-left: 60px; font-size: 12px; color: var(--second); }
.hours span { position: absolute; transform: translateX(-2px); }
.day { display: grid; grid-template-columns: 59px 1fr; border-top: 1px solid var(--line-soft); }
.day:first-child { border-top: 0; }
.day.off { background: var(--paper); }
.day-name { position: sticky; left: 0; z-index: 1; background: var(--surface); padding: 14px 6px 0 14px; font-weight: 700; }
.date { display: block; font-weight: 400; font-size: 11.5px; color: var(--second); white-space: nowrap; }
.line { position: relative; }
.line i { position: absolute; top: 0; bottom: 0; border-left: 1px solid var(--line-soft); pointer-events: none; }
.note { position: absolute; left: 10px; top: 50%; transform: translateY(-50%); color: var(--second); }
.hours-of, .drawn { position: absolute; top: 3px; bottom: 3px; }
.drawn {
  padding: 2px 6px; overflow: hidden; border: 1px solid var(--act); border-radius: 4px; pointer-events: none; z-index: 1;
  background: repeating-linear-gradient(135deg, var(--line-soft) 0 2px, transparent 2px 8px);
}
.class-bar { position: absolute; height: 46px; }
</style>
