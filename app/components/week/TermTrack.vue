<script setup lang="ts">
import { shiftDate, type Term } from '@ridgeway/core/catalog'
import { mondayOf } from '@ridgeway/core/weeks'

/** The weeks of the term with its sessions above: a week that is not like the others is marked, and pressing one shows its real dates. */
const { term } = defineProps<{ term: Term }>()
/** The Monday of the week that is shown; empty for the typical week. */
const monday = defineModel<string>({ required: true })
const at = (date: string) => (Date.parse(date) - Date.parse(first.value)) / (weeks.value.length * 7 * 86_400_000) * 100
const first = computed(() => mondayOf(term.start))
const weeks = computed(() => {
  const found: { monday: string, notes: string[] }[] = []
  for (let day = first.value; day <= term.end; day = shiftDate(day, 7)) {
    const days = daysOfWeek(day, term)
    found.push({ monday: day, notes: Object.values(days).filter(one => one.note).map(one => `${longDate(one.date)} ${one.note}`) })
  }
  return found
})
const halves = computed(() => term.sessions.filter(session => session.code !== 'full'))
const field = useTemplateRef<HTMLElement>('field')
useRoving(field, '.week')
const say = (week: { monday: string, notes: string[] }, i: number) =>
  [`Week ${i + 1}, from ${longDate(week.monday)}`, ...week.notes].join(', ')
</script>

<template>
  <div class="track">
    <div class="sessions" aria-hidden="true">
      <span
        v-for="session in halves"
        :key="session.code"
        :style="{ left: `${at(session.start)}%`, width: `${at(session.end) - at(session.start)}%` }"
        >{{ session.name }} · from {{ longDate(session.start).replace(/ \d{4}$/, '') }}</span
      >
    </div>
    <div ref="field" class="weeks" role="group" aria-label="Weeks of the term">
      <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a week of the term track is a mark of our own, pressed as a whole -->
      <button
        v-for="(week, i) in weeks"
        :key="week.monday"
        type="button"
        class="mark week"
        :class="{ special: week.notes.length }"
        :aria-pressed="monday === week.monday"
        :aria-label="say(week, i)"
        :title="say(week, i)"
        @click="monday = monday === week.monday ? '' : week.monday"
      >
        {{ i + 1 }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.track { font-size: 11.5px; color: var(--second); }
.sessions { position: relative; height: 15px; }
.sessions span { position: absolute; white-space: nowrap; overflow: hidden; border-bottom: 2px solid var(--line); padding-left: 2px; }
.weeks { display: flex; gap: 1px; margin-top: 3px; }
.week {
  flex: 1; border: 1px solid var(--line); background: var(--surface); border-radius: 3px; padding: 1px 0;
  cursor: pointer; min-width: 0;
}
.week.special { border-bottom: 3px solid var(--block); }
.week[aria-pressed=true] { background: var(--act); color: rgb(var(--v-theme-on-primary)); border-color: var(--act); }
</style>
