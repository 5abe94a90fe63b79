<script setup lang="ts">
import { programId } from '@ridgeway/core/requirements'

const student = useStudentStore()
const { programs, chosen, alone, bottlenecks, sayState, point, open } = provideCourseMap()
const choices = computed(() => programs.value.map(one => ({ value: programId(one), title: `${one.title} · ${one.catalogYear}` })))
</script>

<template>
  <div class="page">
    <PageHead title="Prerequisite map">
      <template #beside>
        <v-select v-model="chosen" class="program" :items="choices" label="Program" bg-color="surface" />
        <span class="second small key"
          ><svg width="30" height="8" aria-hidden="true"><path d="M0 4H30" class="way" /></svg> must come first
          <svg width="30" height="8" aria-hidden="true"><path d="M0 4H30" class="way either" /></svg> one of several</span
        >
      </template>
      <WordLink :to="`/student/${student.state!.id}/plan`">Back to the plan</WordLink>
    </PageHead>
    <section class="card necks" aria-label="Bottlenecks">
      <b>Much waits for</b>
      <ActButton v-for="course in bottlenecks" :key="course.code" class="neck" v-bind="point(course.code)" @click="open(course.code)">
        <b>{{ course.code }}</b> {{ count(course.opens, 'course') }} <span class="second small">{{ sayState(course.code) }}</span>
      </ActButton>
      <span v-if="!bottlenecks.length" class="second">nothing that is not passed holds up three or more others.</span>
    </section>
    <MapCanvas />
    <p class="second small">
      The number in a corner is how many courses of the map wait for it.
      {{ alone.length ? `Open to anybody, and opening nothing: ${alone.map(course => course.code).join(', ')}.` : '' }}
    </p>
    <MapTable />
  </div>
</template>

<style scoped>
.program { width: 300px; flex: none; }
.key { display: inline-flex; gap: 6px; align-items: center; }
.way { fill: none; stroke: color-mix(in srgb, var(--second) 70%, transparent); stroke-width: 1.4; }
.way.either { stroke-dasharray: 4 4; }
.necks { padding: 8px 14px; display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; margin-bottom: 8px; }
.necks .neck { border: 1px solid var(--line); background: var(--paper); color: var(--ink); padding: 2px 9px; font-weight: 400; }
</style>
