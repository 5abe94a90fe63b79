<script setup lang="ts">
import { makeToken, revokeToken } from '#shared/contract/acts/tokens'
import { type ApiToken, readTokens } from '#shared/contract/views/tokens'
import { call } from '~/composables/useApi'

/** Tokens by which other programs act for somebody: made, listed and revoked by their owner; the office sees and revokes all. */
const session = useSessionStore()
const whose = ref<'mine' | 'all'>('mine')
const { data, problem: unread, reload } = useView(readTokens, () => ({ whose: whose.value }))
const { busy, problem, doing } = useDoing()
const name = ref('')
const scope = ref<'read' | 'write'>('read')
const days = ref(90)
const made = shallowRef<{ token: string, name: string } | null>(null)
const { copy, copied } = useClipboard({ legacy: true })
const SCOPES = [{ value: 'read', title: 'read what I may see' }, { value: 'write', title: 'read it, and do what I may do' }]
async function make() {
  await doing(async () => {
    const { answer } = await call(makeToken, { name: name.value, scope: scope.value, days: Number(days.value) })
    made.value = { token: answer.token, name: name.value }
    name.value = ''
  })
  await reload()
}
const ending = shallowRef<ApiToken | null>(null)
async function revoke() {
  const one = ending.value!
  if (!await doing(async () => void await call(revokeToken, { id: one.id }))) return
  ending.value = null
  announce(`${one.name} is revoked.`)
  await reload()
}
const day = (instant: string) => toLocal(instant, session.zone).toFormat('d LLL yyyy')
</script>

<template>
  <div class="page">
    <PageHead title="API access" about="so that other programs of the college read and write for you">
      <ViewChoice
        v-if="session.account?.role === 'office'"
        v-model="whose"
        label="Whose tokens"
        :choices="[['mine', 'mine'], ['all', 'everybody\'s']]"
      />
    </PageHead>
    <FailedBox v-if="problem ?? unread" :problem="(problem ?? unread)!" />
    <div class="two">
      <section class="card list" aria-label="Tokens">
        <h2>Tokens</h2>
        <p v-if="data && !data.length" class="second">
          None. A token lets a script, a spreadsheet or another system of the college ask Ridgeway as you, without your password.
        </p>
        <DataTable v-else-if="data" label="Tokens that stand">
          <thead>
            <tr>
              <th>For</th>
              <th v-if="whose === 'all'">Whose</th>
              <th>May</th>
              <th>Last used</th>
              <th>Until</th>
              <th><span class="visually-hidden">End it</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="one in data" :key="one.id">
              <td><b>{{ one.name }}</b></td>
              <td v-if="whose === 'all'">{{ one.person.name }} <span class="second small">{{ one.person.role }}</span></td>
              <td>{{ one.scope === 'read' ? 'read' : 'read and write' }}</td>
              <td>{{ one.used ? day(one.used) : 'never' }}</td>
              <td>{{ day(one.until) }}</td>
              <td><WordLink :aria-label="`Revoke ${one.name}`" @click="ending = one">revoke …</WordLink></td>
            </tr>
          </tbody>
        </DataTable>
      </section>
      <section class="card make" aria-label="Make a token">
        <h2>Make a token</h2>
        <form @submit.prevent="make">
          <v-text-field v-model="name" label="What it is for" maxlength="60" placeholder="The library's nightly list" />
          <v-select v-model="scope" :items="SCOPES" label="It may" />
          <v-text-field v-model.number="days" type="number" min="1" max="366" label="For days" />
          <ActButton weight="full" type="submit" :busy="busy" :off="name.trim().length < 2 && 'Say what it is for'">Make it</ActButton>
        </form>
        <div v-if="made" role="status">
          <p><b>{{ made.name }}</b>: copy it now. It is shown only here; Ridgeway does not keep it.</p>
          <p class="token">
            <code>{{ made.token }}</code>
            <ActButton @click="copy(made.token)">{{ copied ? 'Copied' : 'Copy' }}</ActButton>
          </p>
        </div>
        <p class="second small">
          Send it as <code>Authorization: Bearer …</code>. What can be asked stands in
          <a href="/api/openapi.json" target="_blank">the API's description</a>. It ends on its day, when you or the office revoke it,
          and with a new password.
        </p>
      </section>
    </div>
    <AskDialog
      :model-value="ending !== null"
      :title="`Revoke ${ending?.name ?? ''}`"
      act="Revoke it"
      :busy="busy"
      @update:model-value="$event || (ending = null)"
      @act="revoke"
    >
      <p>What uses it is refused from the next request on. It cannot be brought back; another one can be made.</p>
    </AskDialog>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr); gap: 12px; align-items: start; }
.list, .make { padding: 10px 16px; }
form { display: grid; gap: 10px; margin: 8px 0; }
.token { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
code { overflow-wrap: anywhere; }
p { margin: 4px 0; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
