<script setup lang="ts">
import type { PlanHead } from '#shared/contract/views/student'
import type { Problem } from '~/composables/useApi'

/** The student's plans: which is open, which is current; make, copy, rename, delete and bring back. */
const student = useStudentStore()
const plans = usePlansStore()
const open = ref(false)
const problem = ref<Problem | null>(null)
const renaming = ref<number | null>(null)
const name = ref('')
const list = computed(() => student.state?.plans ?? [])
const tooMany = computed(() => list.value.length >= 5 && 'You keep five plans already')
async function act(work: Promise<Problem | null>, closes = false) {
  problem.value = await work
  if (!problem.value && closes) open.value = false
}
function beginRename(plan: PlanHead) {
  renaming.value = plan.id
  name.value = plan.name
}
async function rename() {
  const id = renaming.value
  if (id === null) return
  await act(plans.rename(id, name.value))
  if (!problem.value) renaming.value = null
}
</script>

<template>
  <v-menu v-model="open" :close-on-content-click="false">
    <template #activator="{ props: menu }"
      ><WordLink v-bind="menu" aria-label="Plans">
        ▾ {{ list.length > 1 ? count(list.length, 'plan') : 'plans' }}
      </WordLink></template
    >
    <div class="card plans" role="dialog" aria-label="Plans">
      <FailedBox v-if="problem" :problem="problem" />
      <ul>
        <li v-for="plan in list" :key="plan.id" :class="{ open: plan.id === student.state?.plan.id }">
          <form v-if="renaming === plan.id" class="rename" @submit.prevent="rename">
            <v-text-field v-model="name" label="Name of the plan" maxlength="60" autofocus />
            <ActButton type="submit">Rename</ActButton> <WordLink
              class="small" @click="renaming = null">Leave it</WordLink>
          </form>
          <template v-else>
            <WordLink
              class="name"
              @click="
                student.openPlan(plan.id);
                open = false
              "
            >
              {{ plan.name }}
            </WordLink>
            <span class="second small"
              >{{ plan.current ? 'current' : '' }}{{ plan.id === student.state?.plan.id ? (plan.current ? ', open' : 'open') : '' }}</span
            >
            <span v-if="student.mayEdit" class="acts small">
              <WordLink v-if="!plan.current" @click="act(plans.makeCurrent(plan.id))">Make current</WordLink>
              <WordLink @click="beginRename(plan)">Rename</WordLink>
              <WordLink
                :busy="plans.busy" :off="tooMany"
                @click="act(plans.make(`Copy of ${plan.name}`.slice(0, 60), plan.id), true)"
              >
                Copy
              </WordLink>
              <WordLink v-if="!plan.current" class="blocking" @click="act(plans.remove(plan))">Delete</WordLink>
            </span>
          </template>
        </li>
      </ul>
      <p v-if="plans.deleted" role="status">
        “{{ plans.deleted.name }}” is deleted.
        <WordLink @click="act(plans.restore())">Bring it back</WordLink>
      </p>
      <p v-if="student.mayEdit" class="foot">
        <ActButton :busy="plans.busy" :off="tooMany" @click="act(plans.make('New plan', null), true)">New empty plan</ActButton> <span
          class="second small">{{ list.length }} of 5. The current plan is the one that sign-off and registration read.</span>
      </p>
    </div>
  </v-menu>
</template>

<style scoped>
.plans { padding: 10px 14px; width: 480px; max-width: calc(100vw - 24px); }
ul { list-style: none; margin: 0; padding: 0; display: grid; gap: 7px; }
li { display: flex; flex-wrap: wrap; gap: 3px 10px; align-items: center; border-left: 3px solid transparent; padding-left: 8px; }
li.open { border-color: var(--act); }
.name { font-weight: 700; }
.acts { display: flex; gap: 10px; margin-left: auto; }
.rename { display: flex; gap: 8px; align-items: center; flex: 1; }
.foot .act { white-space: nowrap; flex: none; }
.foot { margin: 10px 0 0; display: flex; gap: 10px; align-items: center; }
p { margin: 8px 0 0; }
</style>
