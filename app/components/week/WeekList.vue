<script setup lang="ts">
import type { Section } from '@ridgeway/core/catalog'
import { clockTime, sayDelivery } from '@ridgeway/words'
import type { BundleView } from '#shared/contract/views/student'

/** The same week as a list: every section with its number, when, where, with whom, and its exam. */
const { chosen } = defineProps<{ chosen: readonly BundleView[] }>()
defineEmits<{ open: [bundle: string] }>()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const rows = computed(() => chosen.flatMap(bundle => bundle.sections.map((section: Section) => ({ bundle, section }))))
const sessionName = (code: string) => workingTerm.term?.sessions.find(one => one.code === code)?.name ?? ''
</script>

<template>
  <DataTable label="Sections of the week" class="card list">
    <thead>
      <tr>
        <th
          scope="col"
        >
          Section</th><th scope="col">Number</th><th scope="col">When</th><th scope="col">Where</th><th scope="col">With</th><th
          scope="col">Part of term</th><th scope="col">Exam</th><th scope="col">State
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="{ bundle, section } in rows" :key="section.id">
        <th
          scope="row"
        >
          <WordLink
            @click="$emit('open', bundle.id)"
          >
            {{ section.course }}-{{ section.label }}</WordLink> <span class="title">{{ catalog.courses.get(section.course)?.title }}</span>
        </th>
        <td>{{ section.number }}</td>
        <td>
          <template
            v-for="(meeting, i) in section.meetings"
            :key="i"
          >
            {{ meeting.first === meeting.last ? longDate(meeting.first) : meeting.days.join(' ') }} {{ clockTime(meeting.start) }}–{{
            clockTime(meeting.end) }}<br /></template><template v-if="!section.meetings.length">no set time
          </template>
        </td>
        <td>
          <template
            v-for="(meeting, i) in section.meetings"
            :key="i"
          >
            {{ meeting.room }}, {{ catalog.siteName(meeting.site) }}<br /></template><template v-if="!section.meetings.length">{{
            sayDelivery(section.delivery) }}
          </template>
        </td>
        <td>{{ section.instructors.join(', ') }}</td>
        <td>{{ sessionName(section.session) }}</td>
        <td>{{ section.exam ? `${longDate(section.exam.date)}, ${clockTime(section.exam.start)}` : 'in class' }}</td>
        <td>{{ bundle.registered ? 'registered' : 'picked' }}</td>
      </tr>
      <tr v-if="rows.length === 0"><td colspan="8" class="second">Nothing is picked yet.</td></tr>
    </tbody>
  </DataTable>
</template>

<style scoped>
.list { padding: 8px 14px; }
.list :deep(td), .list :deep(th) { vertical-align: top; padding: 4px 14px 4px 0 !important; }
.title { font-weight: 400; }
</style>
