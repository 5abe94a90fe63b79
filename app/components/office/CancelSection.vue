<script setup lang="ts">
import { formatCredits } from '@ridgeway/words'
import { cancelSection } from '#shared/contract/acts/office'
import { readSection } from '#shared/contract/views/office'
import { call } from '~/composables/useApi'

/** Cancels a section, or restores it: first whom it touches and what each would be offered, then the act with its reason. */
const { section, title, cancelled } = defineProps<{ section: number, title: string, cancelled: boolean }>()
const emit = defineEmits<{ changed: [] }>()
const workingTerm = useWorkingTermStore()
const open = ref(false)
const because = ref('')
const { busy, problem, doing } = useDoing()
const { data, problem: unread } = useView(readSection, () => open.value && !cancelled
  ? { term: workingTerm.code, section, consequences: '1' as const }
  : null)
const touched = computed(() => data.value?.touched ?? [])
const offered = computed(() => touched.value.filter(one => one.other !== null).length)
async function act() {
  const done = await doing(async () => void await call(cancelSection, { section, cancelled: !cancelled, because: because.value }))
  if (!done) return
  open.value = false
  because.value = ''
  announce(cancelled ? `${title} is restored.` : `${title} is cancelled.`)
  emit('changed')
}
</script>

<template>
  <ActButton @click="open = true">{{ cancelled ? 'Restore it …' : 'Cancel this section …' }}</ActButton>
  <AskDialog
    v-model="open"
    :title="cancelled ? `Restore ${title}` : `Cancel ${title}`"
    :act="cancelled ? 'Restore it' : touched.length ? `Cancel it for ${count(touched.length, 'student')}` : 'Cancel it'"
    :busy="busy"
    :off="because.trim().length < 3 && 'Say why first'"
    @act="act"
  >
    <FailedBox v-if="problem ?? unread" :problem="(problem ?? unread)!" />
    <template v-if="!cancelled">
      <p v-if="!data" role="status" aria-busy="true">Looking whom it touches …</p>
      <p v-else-if="!touched.length">Nobody is registered in it.{{ data.waiting.length ? ' Those who wait for it are told.' : '' }}</p>
      <template v-else>
        <p>
          All that was charged comes back. For <b>{{ offered }} of {{ touched.length }}</b> another bundle fits: its seat is held for
          them as an offer. {{ touched.length - offered ? 'The others are told to choose another course.' : '' }}
        </p>
        <DataTable label="Whom it touches" class="touched">
          <thead>
            <tr>
              <th>Student</th>
              <th>Is offered</th>
              <th class="figure">Credits left</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in touched" :key="one.id">
              <td>{{ one.name }}</td>
              <td>
                <template v-if="one.other">{{ one.other.label }}, {{ one.other.times }}</template>
                <span v-else class="blocking">nothing fits</span>
              </td>
              <td class="figure">
                {{ formatCredits(one.credits) }}<span v-if="one.fullTimeLost" class="blocking"> part-time</span>
                <span v-if="one.alone.length" class="second"> leaves {{ one.alone.join(', ') }} alone</span>
              </td>
            </tr>
          </tbody>
        </DataTable>
      </template>
    </template>
    <p v-else>It can be registered again from now on. Those who were in it are not put back; they can choose it anew.</p>
    <v-text-field v-model="because" label="Why" maxlength="300" :placeholder="cancelled ? 'A teacher was found' : 'No teacher was found'" />
  </AskDialog>
</template>

<style scoped>
p { margin: 2px 0; }
.touched { max-height: 230px; overflow: auto; }
.figure { text-align: right; white-space: nowrap; }
</style>
