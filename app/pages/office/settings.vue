<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import { setCollege } from '#shared/contract/acts/college'
import { readLedger } from '#shared/contract/views/office'
import { call } from '~/composables/useApi'

/** The college itself: name, hours, grades, money. Set as a whole, refused where something rests on what would go; with history. */
const catalog = useCatalogStore()
const session = useSessionStore()
const { data: past, reload } = useView(readLedger, () => ({ action: 'set college' }))
const { busy, problem, doing } = useDoing()
const standing = () => structuredClone({
  name: catalog.name, zone: catalog.zone, repeatPolicy: catalog.rules.repeatPolicy, termsText: catalog.termsText,
  offerHours: catalog.offerHours, money: toRaw(catalog.policy),
  grades: Object.entries(catalog.rules.scale).map(([grade, meaning]) => ({ grade, ...meaning })),
})
const fresh = ref(standing())
const seen = ref(catalog.stamp)
const isChanged = computed(() => JSON.stringify(fresh.value) !== JSON.stringify(standing()))
// What others set meanwhile is taken over as long as nothing was written here.
watch(() => catalog.stamp, () => {
  if (JSON.stringify(fresh.value) === before) begin()
})
let before = JSON.stringify(fresh.value)
function begin() {
  fresh.value = standing()
  before = JSON.stringify(fresh.value)
  seen.value = catalog.stamp
}
const zones = Intl.supportedValuesOf('timeZone')
const REPEATS = [{ value: 'best', title: 'the best attempt stands' }, { value: 'latest', title: 'the latest attempt stands' }]
const NAMES: Record<string, string> = { name: 'name', zone: 'time zone', repeatPolicy: 'repeats', termsText: 'terms',
  offerHours: 'seat offers',
  gradeScale: 'grades', money: 'tuition and payment' }
const changedIn = (detail: Record<string, unknown>) => (Array.isArray(detail.changed) ? detail.changed : [])
  .map(key => NAMES[String(key)] ?? String(key)).join(', ') || 'nothing'
async function keep() {
  const { money, ...rest } = fresh.value
  const went = await doing(async () => void await call(setCollege, { ...rest, seen: seen.value, money: { ...money,
    siteFees: Object.entries(money.siteFees).map(([site, cents]) => ({ site, cents })) } }))
  await Promise.all([catalog.load(true), reload()])
  if (!went) return
  begin()
  announce('The college is kept.')
}
</script>

<template>
  <div class="page">
    <PageHead title="Settings" :about="catalog.name">
      <WordLink v-if="isChanged" @click="begin">As they stand</WordLink>
      <ActButton weight="full" :busy="busy" :off="!isChanged && 'Nothing is changed'" @click="keep">Keep the settings</ActButton>
      <WordLink to="/office/college">College</WordLink>
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" />
    <GreyShapes v-if="!catalog.ready" />
    <div v-else class="two">
      <div class="column">
        <section class="card part" aria-label="The college">
          <h2>The college</h2>
          <v-text-field v-model="fresh.name" label="Name" maxlength="120" />
          <v-autocomplete v-model="fresh.zone" :items="zones" label="Time zone" />
          <v-select v-model="fresh.repeatPolicy" :items="REPEATS" label="When a course is repeated" />
          <v-text-field v-model.number="fresh.offerHours" type="number" min="1" max="336" label="Hours for which a seat is offered" />
          <v-textarea v-model="fresh.termsText" label="What students accept before they register" rows="4" maxlength="2000" />
          <p class="second small">
            Loads and deadlines are set for each term; sharing between programs in the programs;
            sign-off and exceptions under <WordLink class="small" to="/office/college">College</WordLink>.
          </p>
        </section>
        <SettingsGrades v-model="fresh.grades" />
      </div>
      <div class="column">
        <SettingsMoney v-model="fresh.money" />
        <section class="card part" aria-label="Changed before">
          <h2>Changed before</h2>
          <p v-if="!past?.rows.length" class="second">Nothing yet.</p>
          <p v-for="row in past?.rows ?? []" :key="row.id">
            {{ sayMoment(row.at, session.zone) }} · {{ row.actor ?? 'by itself' }}: {{ changedIn(row.detail) }}
          </p>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 12px; align-items: start; }
.column { display: grid; gap: 12px; }
.part { padding: 10px 16px; display: grid; gap: 10px; }
h2, p { margin: 0; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
