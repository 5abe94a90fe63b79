<script setup lang="ts">
import { sayDelayed, sayHours } from '@ridgeway/words'
import { readCourseDemand } from '#shared/contract/views/demand'

/** One course: who asks for it by program, who would finish later without it, what waits behind it, and what would help. */
const { course } = defineProps<{ course: string }>()
const emit = defineEmits<{ close: [] }>()
const workingTerm = useWorkingTermStore()
const catalog = useCatalogStore()
const { data, problem, reload } = useView(readCourseDemand, () => workingTerm.code ? { term: workingTerm.code, course } : null)
const BEHIND = 8
const most = computed(() => Math.max(1, ...data.value?.course.byProgram.map(one => one.students) ?? []))
</script>

<template>
  <SidePanel :title="course" :about="course" @close="emit('close')">
    <template #beside><span class="second small">{{ catalog.courses.get(course)?.title }}</span></template>
    <FailedBox v-if="problem" :problem="problem" retry @retry="reload" />
    <div v-if="data" class="columns">
      <div>
        <h3>{{ count(data.course.students, 'student') }} plan it</h3>
        <p>{{ data.course.registered }} registered, {{ data.course.waiting }} waiting; {{ data.course.left }} of
          {{ count(data.course.seats, 'seat') }} left.</p>
        <ul class="programs">
          <li v-for="one in data.course.byProgram" :key="one.program">
            <span class="bar" :style="{ width: `${one.students / most * 90}px` }" aria-hidden="true" />
            {{ one.students }} · {{ one.program || 'no program' }}
          </li>
        </ul>
      </div>
      <div>
        <h3>{{ sayDelayed(data.course) || 'Nobody would finish later' }}</h3>
        <p v-if="data.delayed.length">
          Without it this term:
          <template v-for="(one, i) in data.delayed" :key="one.id"
            >{{ i ? ', ' : '' }}<NuxtLink :to="`/student/${one.id}/plan`">{{ one.name }}</NuxtLink> ({{
              count(one.terms, 'term')
            }})</template
          >.
        </p>
        <p v-if="data.behind.length">
          Behind it:
          <template v-for="(one, i) in data.behind.slice(0, BEHIND)" :key="one.course"
            >{{ i ? ', ' : '' }}{{ one.course }} (for {{ one.students }})</template
          >{{ data.behind.length > BEHIND ? `, and ${data.behind.length - BEHIND} more` : '' }}.
        </p>
        <p v-else class="second">No course waits for it.</p>
      </div>
      <div>
        <h3>What would help</h3>
        <p v-if="!data.more" class="second">
          {{ data.course.seats || !workingTerm.term?.scheduled
            ? 'There are seats enough for those who plan it.'
            : 'It has no sections this term.' }}
        </p>
        <template v-else>
          <p>
            <b>{{ count(data.more.sections, 'section') }} more</b> of {{ data.more.size }} seats, or
            {{ count(data.course.short, 'seat') }} more in those it has.
          </p>
          <p v-if="data.times.length">
            When those without a seat are free:
            <template v-for="(time, i) in data.times" :key="i"
              >{{ i ? ', ' : '' }}<b>{{ sayHours(time) }}</b> ({{ time.free }} of {{ time.of }})</template
            >.
          </p>
          <p class="second small">
            Outside what they are registered in, the hours that they keep free, and planned courses that meet at one time only.
          </p>
        </template>
        <p><WordLink to="/office/sections">Sections of this term</WordLink></p>
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: minmax(0, .8fr) minmax(0, 1.2fr) minmax(0, 1fr); gap: 22px; }
h3 { margin: 2px 0 4px; font-size: 14px; }
p { margin: 2px 0 6px; }
.programs { list-style: none; margin: 0; padding: 0; }
.bar { display: inline-block; height: 9px; background: rgb(var(--v-theme-slate)); margin-right: 6px; }
@media (max-width: 900px) { .columns { grid-template-columns: minmax(0, 1fr); } }
</style>
