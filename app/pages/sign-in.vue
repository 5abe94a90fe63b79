<script setup lang="ts">
import type { Problem } from '~/composables/useApi'

definePageMeta({ layout: false })
const session = useSessionStore()
const route = useRoute()
const username = ref('')
const password = ref('')
const problem = ref<Problem | null>(null)
const busy = ref(false)
/** The cursor goes into the first field at once: a later move would take letters typed into the other one. */
const nameField = useTemplateRef<{ focus: () => void }>('nameField')
onMounted(() => {
  nameField.value?.focus()
  return session.loadDemoAccounts()
})

async function submit() {
  busy.value = true
  problem.value = await session.signIn(username.value, password.value)
  busy.value = false
  if (problem.value) return
  const { next } = route.query
  const isOther = session.leftBy !== null && session.leftBy !== session.account?.id
  const target = !isOther && typeof next === 'string' && next.startsWith('/') && !next.startsWith('//') ? next : session.home
  // Another person in the same tab gets a page of their own, with nothing of the one before.
  await navigateTo(target, { external: isOther })
}
function choose(name: string) {
  username.value = name
  password.value = 'larkmoor'
  return submit()
}
const groups = computed(() =>
  (['student', 'advisor', 'office'] as const).map(role => ({
    role,
    title: { student: 'Students', advisor: 'Advisors', office: 'Registrar\'s office' }[role],
    accounts: session.demoAccounts.filter(account => account.role === role),
  })).filter(group => group.accounts.length > 0),
)
</script>

<template>
  <main class="sign-in">
    <section class="form-side">
      <RidgewayMark class="mark" />
      <h1>Know where your courses lead.</h1>
      <p class="second">
        Plan your terms against what your program asks, choose sections that fit your week, and register the minute it opens.
      </p>
      <p v-if="route.query.ended" class="ended" role="status">
        You are not signed in, or your session has ended. Sign in to go on where you were; what you did is saved.
      </p>
      <form @submit.prevent="submit">
        <v-text-field ref="nameField" v-model="username" label="Name" autocomplete="username" required />
        <v-text-field v-model="password" label="Password" type="password" autocomplete="current-password" required />
        <FailedBox v-if="problem" :problem="problem" />
        <ActButton weight="full" class="enter" type="submit" :busy="busy">{{ busy ? 'Signing in …' : 'Sign in' }}</ActButton>
      </form>
    </section>
    <section v-if="groups.length" class="demo-side" aria-labelledby="demo-title">
      <h2 id="demo-title">Larkmoor College, a demonstration</h2>
      <p class="second small">Everybody here is invented. Choose someone, or type the name with the password <code>larkmoor</code>.</p>
      <div class="groups"><div v-for="group in groups" :key="group.role" :class="group.role">
        <h3>{{ group.title }}</h3>
        <ul class="accounts">
          <li v-for="account in group.accounts" :key="account.username">
            <ActButton class="person" :busy="busy" @click="choose(account.username)">
              <span class="strong">{{ account.name }}</span> <span class="second small">{{ account.username }}</span>
              <span class="story">{{ account.story }}</span>
            </ActButton>
          </li>
        </ul>
      </div></div>
    </section>
  </main>
</template>

<style scoped>
.enter { width: 100%; min-height: 40px; }
.sign-in { display: grid; grid-template-columns: minmax(300px, 400px) minmax(0, 1fr); min-height: 100vh; }
.form-side { padding: 56px 36px; background: var(--surface); border-right: 1px solid var(--line); }
.mark { margin-bottom: 36px; }
.form-side h1 { font-size: 24px; margin-bottom: 8px; }
form { margin-top: 24px; display: grid; gap: 14px; }
.ended { background: var(--act-tint); border-radius: 6px; padding: 8px 12px; }
.demo-side { padding: 40px 36px; overflow: auto; max-height: 100vh; }
.demo-side h3 { margin: 16px 0 6px; color: var(--second); font-size: 13px; }
/* The staff stand beside the students, not below all of them. */
.groups { display: grid; grid-template-columns: minmax(0, 2.1fr) minmax(0, 1fr); gap: 0 20px; grid-template-rows: auto 1fr; }
.groups .student { grid-row: 1 / span 2; }
.accounts {
  list-style: none; padding: 0; margin: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 8px;
}
.accounts .person {
  display: block; width: 100%; height: 100%; text-align: left; padding: 9px 12px; border: 1px solid var(--line); border-radius: 7px;
  color: var(--ink); font-weight: 400;
}
.accounts .person:hover { border-color: var(--act); }
.story { display: block; font-size: 12.5px; margin-top: 2px; }
@media (max-width: 1100px) { .groups { grid-template-columns: minmax(0, 1fr); } .groups .student { grid-row: auto; } }
@media (max-width: 800px) {
  .sign-in { grid-template-columns: 1fr; }
  .form-side { padding: 28px 20px; border: 0; }
  .demo-side { padding: 20px; max-height: none; }
  .mark { margin-bottom: 18px; }
}
</style>
