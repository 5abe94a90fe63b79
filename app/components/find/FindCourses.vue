<script setup lang="ts">
import { findCourses, makeTextIndex, searchLines } from '@ridgeway/core/find'
import { termPhase } from '@ridgeway/core/catalog'
import { factsOf } from '@ridgeway/core/record'
import { creditRange, describeOffering, sayCountsFor, sayNeeds } from '@ridgeway/words'

/** The whole catalog: when a course is offered, what it needs, what it opens, and what it would count for. */
const find = useFindStore()
const student = useStudentStore()
const catalog = useCatalogStore()
const commands = usePlanCommands()
const { today } = useNow()
const index = computed(() => makeTextIndex(catalog.courses.values()))
const ahead = computed(() => catalog.terms.filter(term => termPhase(term, today.value) === 'future'))
const found = computed(() => findCourses({ search: find.search, courses: catalog.courses, lines: searchLines(student.standing!.reports,
  catalog.courses),
terms: ahead.value, facts: factsOf(student.state!.file, student.standing!.items), rules: student.rules, index: index.value }))
const most = ref(30)
watch(() => find.search, () => most.value = 30)
const list = useTemplateRef<HTMLElement>('list')
useRoving(list, '.course')
const placeOf = (code: string) => student.entries.find(entry => entry.course === code)?.term
const termName = (code: string) => catalog.term(code)?.name ?? code
async function plan(code: string, term: (typeof found.value)[number]['firstTerm']) {
  if (!term || !student.mayEdit || placeOf(code)) return
  await commands.place(code, term).done
  announce(commands.said.value)
}
</script>

<template>
  <p class="head"><FindScope /></p>
  <p class="second" role="status">{{ count(found.length,
    'course') }}<template v-if="find.search.canTake"> that you can take in a term ahead</template></p>
  <WordLink class="small all" :aria-pressed="!find.search.canTake" @click="find.set({ canTake: find.search.canTake ? undefined : true })">
    {{ find.search.canTake ? 'also those that need something first' : 'only those that I can take' }}
  </WordLink>
  <OpenLines />
  <ul ref="list">
    <li
      v-for="{ course, countsFor, offered, firstTerm, needs, opens } in found.slice(0, most)"
      :key="course.code"
      :class="`hue-${countsFor[0]?.hue ?? 'slate'}`"
    >
      <!-- eslint-disable-next-line vue/no-restricted-html-elements -- a course that was found is a mark of our own -->
      <button
        type="button"
        class="mark course"
        :data-item="`course ${course.code}`"
        @click="plan(course.code, firstTerm)"
        @keydown.p="plan(course.code, firstTerm)"
      >
        <b>{{ course.code }}</b> {{ course.title }} <span class="second">· {{ creditRange(course) }} · {{ sayCountsFor(countsFor) }}</span>
        <span class="small line">{{ offered.length ? `offered ${offered.map(term => term.name).join(', ')}`
          : describeOffering(course) }}<template v-if="needs.length"> · <span class="blocking">needs {{ sayNeeds(needs,
            'plan') }}</span></template><template v-if="opens.length"> · opens {{ opens.slice(0, 5).join(', ') }}{{ opens.length > 5
              ? ` and ${opens.length - 5} more` : '' }}</template></span>
      </button>
      <span v-if="placeOf(course.code)" class="second small">planned in {{ termName(placeOf(course.code)!) }}</span>
      <WordLink
        v-else-if="student.mayEdit && firstTerm"
        class="small"
        :aria-label="`Plan ${course.code} in ${firstTerm.name}`"
        @click="plan(course.code, firstTerm)"
      >
        <span class="kbd">p</span> plan in {{ firstTerm.name }}
      </WordLink>
    </li>
  </ul>
  <ActButton v-if="found.length > most" @click="most += 60">More of {{ found.length }}</ActButton>
  <EmptyState
    v-if="found.length === 0"
  >
    Nothing in the catalog answers to that. <WordLink @click="find.clear()">Begin anew</WordLink>.
  </EmptyState>
</template>

<style scoped>
p { margin: 0; }
.all { justify-self: start; }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 5px; }
li { border-left: 6px solid var(--hue); border-radius: 3px; display: flex; gap: 14px; align-items: center; padding-right: 8px; }
li:hover, li:focus-within { background: var(--act-tint); }
.course { flex: 1; text-align: left; background: none; border: 0; padding: 4px 10px; cursor: pointer; }
.line { display: block; color: var(--second); }
@media (max-width: 700px) { li { flex-direction: column; align-items: stretch; gap: 0; padding-bottom: 4px; } li > .words-link,
  li > span { padding-left: 10px; } }
</style>
