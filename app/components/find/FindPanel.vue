<script setup lang="ts">
import type { FoundBundle } from '#shared/contract/views/find'
import type { Problem } from '~/composables/useApi'

/** Find: one box, the sentence of conditions, and what answers to it; it slides in over any page, which stays in sight at the edge. */
const emit = defineEmits<{ close: [], section: [bundle: FoundBundle] }>()
const find = useFindStore()
const week = useWeekStore()
const student = useStudentStore()
const workingTerm = useWorkingTermStore()
const commands = providePlanCommands()
const { said } = useSentence()
const problem = ref<Problem | null>(null)
const list = useTemplateRef<HTMLElement>('list')
useRoving(list, '.row')
onMounted(() => {
  void week.ensure()
  void find.run()
})
// Where the week or the file changes, what was found may have changed too.
watch([() => student.state?.version, () => workingTerm.code, () => student.entries], () => void find.run())
const sorts = [{ value: 'best', title: 'best first' }, { value: 'code', title: 'by code' }, { value: 'time', title: 'earliest first' },
  { value: 'seats', title: 'most seats first' }] as const
const summary = computed(() => find.found ? `${count(find.found.bundles, 'bundle')} in ${count(find.found.courseCount, 'course')}` : '')
watch(summary, words => words && announce(words))

async function pick(bundle: FoundBundle) {
  if (!student.isOwn || bundle.registered) return
  problem.value = await week.choose({ course: bundle.course, sectionIds: bundle.picked ? [] : bundle.sections.map(section => section.id) })
  if (problem.value) return
  const isPlanned = student.entries.some(entry => entry.course === bundle.course && entry.term === workingTerm.code)
  announce(bundle.picked
    ? `${bundle.course} taken out of the line-up.`
    : `${bundle.course}-${bundle.sections[0]!.label} picked.${isPlanned ? '' : ' It is not in the plan yet.'}`)
}
async function plan(code: string) {
  const isThere = student.entries.some(entry => entry.course === code && entry.term === workingTerm.code)
  if (!student.mayEdit || !workingTerm.term || isThere) return
  await commands.place(code, workingTerm.term).done
  announce(commands.said.value)
}
async function remember(bundle: FoundBundle) {
  problem.value = await week.remember(bundle.course, bundle.sections.map(section => section.id), !bundle.remembered)
  const name = `${bundle.course}-${bundle.sections[0]!.label}`
  if (!problem.value) announce(bundle.remembered ? `${name} taken off the shortlist.` : `${name} is on the shortlist.`)
}
/** From the box into the list with the arrow, and back with the arrow from its first row. */
function toList(event: KeyboardEvent) {
  const first = list.value?.querySelector<HTMLElement>('.row[tabindex="0"]')
  if (!first) return
  event.preventDefault()
  first.focus()
}
</script>

<template>
  <section class="find" aria-label="Find">
    <div class="top">
      <v-text-field
        :model-value="find.search.text"
        class="box"
        density="comfortable"
        autofocus
        label="Find"
        placeholder="a code, words, section numbers, or a pasted list"
        maxlength="400"
        :aria-label="`Find. ${said}`"
        clearable
        @update:model-value="find.set({ text: $event ?? '' })"
        @keydown.down="toList"
      />
      <WordLink class="close" aria-keyshortcuts="Escape" @click="emit('close')">Close <span class="kbd">Esc</span></WordLink>
    </div>
    <FindCourses v-if="find.scope === 'courses'" />
    <template v-else>
      <FindSentence />
      <OpenLines />
      <div class="summary">
        <b role="status">{{ summary }}</b>
        <v-menu>
          <template #activator="{ props: menu }"><WordLink v-bind="menu" class="small">{{ sorts.find(one =>
            one.value === (find.search.sort ?? 'best'))!.title }} ▾</WordLink></template>
          <v-list
            aria-label="Order"
          >
            <v-list-item
              v-for="one in sorts"
              :key="one.value"
              :title="one.title"
              :active="one.value === (find.search.sort ?? 'best')"
              @click="find.set({ sort: one.value })"
            />
            </v-list>
        </v-menu>
        <WordLink
          v-if="week.shortlist.length"
          class="small"
          :aria-pressed="find.search.remembered === true"
          @click="find.set({ remembered: find.search.remembered ? undefined : true })"
        >
          shortlist {{ week.shortlist.length }}
        </WordLink>
        <HiddenBar />
      </div>
      <FailedBox v-if="problem || find.failed" :problem="(problem ?? find.failed)!" :retry="!problem" @retry="find.run()" />
      <CompareBundles v-if="find.compared.length" @pick="pick" />
      <NumbersFound v-if="find.found?.numbers.length" @done="emit('close')" />
      <div ref="list" class="list" :aria-busy="find.busy">
        <FoundCourse
          v-for="one in find.found?.courses"
          :key="one.course"
          :found="one"
          @pick="pick"
          @open="emit('section', $event)"
          @remember="remember"
          @compare="find.compare"
          @plan="plan(one.course)"
        />
      </div>
      <GreyShapes v-if="!find.found && !find.failed" label="Looking" :rows="6" />
      <FoundNothing v-if="find.found && find.found.bundles === 0" />
      <ActButton
        v-if="find.found && find.found.courseCount > find.found.courses.length && find.most < 200"
        @click="find.more()"
      >
        More of {{ count(find.found.courseCount, 'course') }}
      </ActButton>
    </template>
  </section>
</template>

<style scoped>
.find { display: grid; gap: 10px; align-content: start; padding: 14px 24px 30px; min-height: 100%; background: var(--surface); }
.top { display: flex; gap: 16px; align-items: center; }
.box :deep(input) { font-size: 17px; }
.close { white-space: nowrap; }
.summary { display: flex; flex-wrap: wrap; gap: 4px 14px; align-items: center; border-block: 1px solid var(--line-soft); padding: 6px 0; }
.list { display: grid; gap: 6px; }
@media (max-width: 700px) { .find { padding: 10px 12px 30px; } .close .kbd { display: none; } }
</style>
