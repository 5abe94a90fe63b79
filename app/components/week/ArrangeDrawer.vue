<script setup lang="ts">
import type { Wish } from '@ridgeway/core/weeks'
import { sayElement } from '@ridgeway/words'
import type { Problem } from '~/composables/useApi'

/** Arrangements: what is wished for, the best weeks as small pictures, and why none stands where none does. */
const emit = defineEmits<{ close: [] }>()
const arrange = useArrangeStore()
const catalog = useCatalogStore()
const week = useWeekStore()
const { without, overCap, inputFor, nameOf } = useArrangeInput()
const { picked, take } = useArrangement()
const problem = ref<Problem | null>(null)
const keeping = ref<string[]>([])
const adding = ref<Wish['kind'] | null>(null)
const kinds = computed(() => (Object.keys(KINDS) as Wish['kind'][])
  .filter(kind => kind === 'keep free' || !arrange.wishes.some(wish => wish.kind === kind))
  .map(kind => ({ value: kind, title: KINDS[kind] })))
const instructors = computed(() =>
  [...new Set(week.courses?.flatMap(one => one.bundles.flatMap(bundle => bundle.sections.flatMap(section => section.instructors))))].sort(),
)
function run() {
  const pins = Object.fromEntries(keeping.value.flatMap(course => picked.value[course] ? [[course, picked.value[course]]] : []))
  const input = inputFor(arrange.wishes, pins)
  if (input) arrange.run(input)
}
const student = useStudentStore()
const filled = computed({ get: () => arrange.places.flatMap(place => arrange.leftOpen.includes(place.id) ? [] : [place.id]),
  set: ids => arrange.leftOpen = arrange.places.flatMap(place => ids.includes(place.id) ? [] : [place.id]) })
const places = computed(() => arrange.places.map(({ id, title, courses }) => ({ value: id,
  title: `${title}: one of ${count(courses.length, 'course')}` })))
watch([() => student.plan.placeholders, () => week.courses], () => arrange.loadPlaces(), { immediate: true })
// Whatever it is worked out from has changed: it is worked out anew.
watch([() => arrange.wishes, keeping, () => week.courses, () => arrange.places, () => arrange.leftOpen], run, { immediate: true })
function add(kind: Wish['kind'] | null) {
  adding.value = null
  if (kind) arrange.wishes = [...arrange.wishes, makeWish(kind, kind === 'avoid site' ? { site: catalog.sites.at(-2)?.code ?? '' } : {})]
}
const change = (wish: Wish) => arrange.wishes = arrange.wishes.map(one => one.id === wish.id ? wish : one)
const remove = (id: string) => arrange.wishes = arrange.wishes.filter(one => one.id !== id)
/** Leaves out what frees most: a wish goes, a pin is let go, a place stays open; a course is the student's to decide. */
function leaveOut({ element }: NonNullable<typeof arrange.conflict>['frees'][number]) {
  if (element.kind === 'wish') remove(element.wish.id)
  else if (element.kind === 'pin') keeping.value = keeping.value.filter(course => course !== element.course)
  else arrange.leftOpen = [...arrange.leftOpen, element.course]
}
const mayLeaveOut = (element: Parameters<typeof sayElement>[0]) =>
  element.kind !== 'course' || arrange.places.some(place => place.id === element.course)
const say = (element: Parameters<typeof sayElement>[0]) => sayElement(element.kind === 'course'
  ? { ...element, course: nameOf(element.course) }
  : element, catalog.siteName)
const total = computed(() => arrange.count && `${arrange.count.atLeast ? 'at least ' : ''}${count(arrange.count.count, 'week')}`)
async function takeLooked(withBackups: boolean) {
  if (!arrange.looked) return
  problem.value = await take(arrange.looked, withBackups)
  if (!problem.value) close()
}
function close() {
  arrange.close()
  emit('close')
}
onBeforeUnmount(() => arrange.close())
useKey('previous arrangement', () => arrange.step(-1))
useKey('next arrangement', () => arrange.step(1))
</script>

<template>
  <SidePanel title="Arrangements" @close="close">
    <template #beside><span class="second small">{{ total ? `· ${total} stand` : '' }}</span></template>
    <FailedBox v-if="problem" :problem="problem" />
    <div class="parts">
      <div>
        <h3>Wishes</h3>
        <ul>
          <WishRow
            v-for="wish in arrange.wishes"
            :key="wish.id"
            :wish="wish"
            :hidden="arrange.hidden.weeks[wish.id]"
            :at-least="arrange.hidden.atLeast"
            :instructors="instructors"
            @change="change"
            @remove="remove(wish.id)"
          />
        </ul>
        <div class="more">
          <v-select v-model="adding" :items="kinds" label="Add a wish" @update:model-value="add" />
          <v-select v-model="keeping" :items="Object.keys(picked)" label="Keep as picked" multiple />
          <v-select v-if="places.length" v-model="filled" class="wide" :items="places" label="Places to fill" multiple />
        </div>
        <p v-if="overCap" class="small">
          Together these courses are {{ overCap.credits / 100 }} credits, over the cap of {{ overCap.cap / 100 }}: not all could be
          registered.
        </p>
        <p v-if="without.length" class="blocking small">
          Of {{ without.map(nameOf).join(', ') }} no bundle could be taken; it is left out here.
        </p>
      </div>
      <div role="status">
        <LongWork
          v-if="arrange.running && !arrange.weeks"
          label="Arranging"
          :share="null"
          stage="looking for the best weeks"
          @cancel="arrange.cancel()"
        />
        <p v-if="arrange.failed" class="blocking">{{ arrange.failed }}</p>
        <template v-if="arrange.conflict">
          <p>
            <b>No week stands.</b> These cannot hold together:
            {{ arrange.conflict.elements.map(say).join(', ') }}.
          </p>
          <p v-for="one in arrange.conflict.frees" :key="say(one.element)">
            Without {{ say(one.element) }} there {{ one.weeks === 1 ? 'is 1 week' : `are ${one.weeks} weeks` }}.
            <WordLink v-if="mayLeaveOut(one.element)" @click="leaveOut(one)">Leave it out</WordLink>
          </p>
          <p v-if="arrange.conflict.frees.length === 0" class="second">Leaving out one of them is not enough.</p>
        </template>
        <ArrangePictures v-else-if="arrange.weeks" @take="takeLooked" />
      </div>
    </div>
  </SidePanel>
</template>

<style scoped>
.parts { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr); gap: 24px; }
ul { list-style: none; margin: 4px 0; padding: 0; }
.wide { grid-column: 1 / -1; }
.more { display: grid; grid-template-columns: 1fr 1fr; gap: 8px; padding-top: 6px; }
p { margin: 3px 0; }
@media (max-width: 900px) { .parts { grid-template-columns: 1fr; gap: 10px; } }
</style>
