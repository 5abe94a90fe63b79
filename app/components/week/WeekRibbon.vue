<script setup lang="ts">
import type { Weekday } from '@ridgeway/core/catalog'
import { clockTime, DAY_NAMES } from '@ridgeway/words'
import type { WeekBar, WeekDay } from '~/composables/week/ribbon'

/** Hours kept free, as the week draws them. */
interface FreeBlock { id: string, days: readonly Weekday[], start: number, end: number, name?: string | undefined }
/**
 * The week on its side: days are rows, hours run across, so that codes, times and rooms read as text. With `dates` it is the week of those
 * dates. Where `mayKeep`, hours are kept free by drawing over them.
 */
const props = defineProps<{ bars: WeekBar[], free?: readonly FreeBlock[], dates?: Record<Weekday, WeekDay> | null, mayKeep?: boolean }>()
const emit = defineEmits<{ keep: [block: { day: Weekday, start: number, end: number }], release: [id: string], open: [bundle: string] }>()

const free = computed(() => props.free ?? [])
const from = computed(() => Math.min(8 * 60, ...[...props.bars.map(bar => bar.meeting.start), ...free.value.map(one => one.start)]
  .map(start => Math.floor(start / 60) * 60)))
const to = computed(() => Math.max(18 * 60, ...[...props.bars.map(bar => bar.meeting.end), ...free.value.map(one => one.end)]
  .map(end => Math.ceil(end / 60) * 60)))
const hours = computed(() => Array.from({ length: (to.value - from.value) / 60 }, (_, i) => from.value + i * 60))
const days = computed(() =>
  (['M', 'T', 'W', 'R', 'F', 'S', 'U'] as Weekday[]).filter(day =>
    'MTWRF'.includes(day) || props.bars.some(bar => bar.meeting.days.includes(day)) || free.value.some(one => one.days.includes(day)),
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
const SESSION: Record<string, string> = { first: ', first half', second: ', second half' }
const { drawn, begin } = useDrawnBlock(() => props.mayKeep === true, () => ({ from: from.value, to: to.value }), block => emit('keep',
  block))
const sayBlock = ({ name, start, end }: FreeBlock) => `${name || 'kept free'} ${clockTime(start)}–${clockTime(end)}`
</script>

<template>
  <div ref="scroller" class="scroll" tabindex="0" role="region" aria-label="Week, days as rows and hours across">
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
            <div
              v-for="block in blocks"
              :key="block.id"
              role="listitem"
              class="free"
              :style="{ left: left(block.start), width: `calc(${left(block.end)} - ${left(block.start)})` }"
            >
              <span class="small">{{ sayBlock(block) }}</span>
              <WordLink
                v-if="mayKeep"
                class="small"
                :aria-label="`Let go: ${DAY_NAMES[day]} ${sayBlock(block)}`"
                @click="emit('release', block.id)"
              >
                let go
              </WordLink>
            </div>
            <div
              v-if="drawn?.day === day"
              class="free drawn"
              :style="{ left: left(drawn.start), width: `calc(${left(drawn.end)} - ${left(drawn.start)})` }"
            >
              {{ clockTime(drawn.start) }}–{{ clockTime(drawn.end) }}
            </div>
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
              <WordLink class="name" :aria-label="`${titleOf(bar)}: all about it`" @click="emit('open', bar.bundle)">
                <span class="strong label">{{ bar.label }} {{ bar.part }}</span>
              </WordLink>
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
.day.off { background: var(--paper); }
.day-name { position: sticky; left: 0; z-index: 1; background: var(--surface); padding: 14px 6px 0 14px; font-weight: 700; }
.date { display: block; font-weight: 400; font-size: 11.5px; color: var(--second); white-space: nowrap; }
.line { position: relative; }
.line i { position: absolute; top: 0; bottom: 0; border-left: 1px solid var(--line-soft); pointer-events: none; }
.note { position: absolute; left: 10px; top: 50%; transform: translateY(-50%); color: var(--second); }
.free {
  position: absolute; top: 3px; bottom: 3px; padding: 2px 6px; overflow: hidden; color: var(--second); border: 1px dashed var(--second);
  border-radius: 4px; background: repeating-linear-gradient(135deg, var(--line-soft) 0 2px, transparent 2px 8px);
}
.free > span { background: var(--surface); border-radius: 3px; padding: 0 3px; }
.free .words-link { margin-left: 6px; background: var(--surface); padding: 0 3px; }
.drawn { border-style: solid; border-color: var(--act); color: var(--ink); pointer-events: none; }
.bar {
  position: absolute; height: 46px; padding: 3px 7px; overflow: hidden;
  line-height: 1.25; font-size: 13px; container: bar / inline-size;
}
.bar > span { display: block; white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.name.name {
  display: block; max-width: 100%; color: inherit; font-weight: 700; overflow: hidden; text-overflow: ellipsis;
  white-space: nowrap; line-height: 1.25;
}
.name :deep(.v-btn__content) { white-space: nowrap; overflow: hidden; text-overflow: ellipsis; }
.where { font-size: 11.5px; }
/* Where a class is short, its code is read before its place. */
@container bar (max-width: 72px) {
  .name :deep(.v-btn__content) { white-space: normal; }
  .where { display: none !important; }
}
.notch {
  position: absolute; top: 0; right: 0; width: 17px; border-radius: 0 3px; text-align: center; font-size: 11.5px; font-weight: 700;
  background: var(--block); color: var(--surface);
}
@media print { .free .words-link { display: none; } }
</style>
