<script setup lang="ts">
/** Every part that pages are made of, and every state of commitment, to be looked at side by side; only in a demonstration. */
definePageMeta({ middleware: () => useSessionStore().demo ? true : navigateTo('/') })

const view = ref<'one' | 'other'>('one')
const chips = ref<string[]>(['seats'])
const panel = ref<string | null>(null)
const asking = ref(false)
const keys = ref(false)
const done = ref(false)
const share = ref(0.4)
const file = ref('')
const pressed = ref(0)
</script>

<template>
  <div class="page">
    <PageHead title="Parts" about="of which every page is made">
      <ActButton @click="keys = true">Keys</ActButton>
    </PageHead>

    <CommitmentStates class="part" />

    <section class="card part" aria-labelledby="kit-acts">
      <h2 id="kit-acts">Acts</h2>
      <div class="row">
        <ActButton weight="full" @click="pressed++">Register 5 sections</ActButton>
        <ActButton @click="pressed++">Wishes and pace</ActButton>
        <WordLink @click="pressed++">Take it out</WordLink>
        <WordLink class="blocking">Delete</WordLink>
        <WordLink to="/kit">A way to a page</WordLink>
        <span role="status">{{ count(pressed, 'press', 'presses') }}</span>
      </div>
      <div class="row">
        <ActButton weight="full" off="Sign-off is missing" @click="pressed++">Register</ActButton>
        <ActButton off="You keep five plans already" @click="pressed++">Copy</ActButton>
        <WordLink off="Nothing to undo" @click="pressed++">Undo</WordLink>
        <ActButton busy>Sending …</ActButton>
      </div>
      <div class="row">
        <ViewChoice v-model="view" label="Read it" :choices="[['one', 'one way'], ['other', 'another way']]" />
        <FilterChips
          v-model="chips"
          label="Only with"
          :choices="[
            { value: 'seats', words: 'seats left', count: 12 },
            { value: 'fits', words: 'fits my week', count: 5 },
          ]"
        />
      </div>
    </section>

    <section class="card part" aria-labelledby="kit-states-of-a-page">
      <h2 id="kit-states-of-a-page">What a page may say</h2>
      <NoticeLine>This is not your current plan: sign-off and registration do not read it.</NoticeLine>
      <NoticeLine blocking>Required writing cannot be reached any more.</NoticeLine>
      <FailedBox
        retry
        :problem="{ code: 'no-connection', status: 0, title: 'Ridgeway cannot be reached.', detail: 'What you did is kept here.' }"
      />
      <EmptyState>Nothing is planned yet. See what is open, and place a course.</EmptyState>
      <GreyShapes :rows="2" :height="40" />
      <LongWork label="Drafting" stage="looking for the shortest finish" :share="share" @cancel="share = 0" />
      <LongWork label="Starting" stage="starting" :share="null" @cancel="share = 0" />
    </section>

    <section class="card part" aria-labelledby="kit-layers">
      <h2 id="kit-layers">What lies over a page</h2>
      <div class="row">
        <ActButton data-item="one" @click="panel = 'one'">Open the drawer</ActButton>
        <ActButton data-item="other" @click="panel = 'other'">Turn it to another</ActButton>
        <ActButton @click="asking = true">Ask first</ActButton>
        <ActButton @click="done = true">Do and undo</ActButton>
      </div>
      <FileDrop label="Open a file" accept=".json" :most="200000" @file="file = $event.name" />
      <span role="status">{{ file }}</span>
      <SameAsTable>
        <thead>
          <tr>
            <th>Term</th>
            <th>Credits</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>Fall 2026</td>
            <td>15</td>
          </tr>
        </tbody>
      </SameAsTable>
    </section>

    <AskDialog v-model="asking" title="Drop HYD 230?" act="Drop it" @act="asking = false">
      <p>Its seat goes to the first on the waitlist.</p>
    </AskDialog>
    <UndoNotice v-model="done" words="“Fast track” is deleted." @undo="pressed = 0" />
    <KeyHelp v-model="keys" />
    <SidePanel v-if="panel" :title="`About ${panel}`" :about="panel" @close="panel = null">
      <p v-for="n in 30" :key="n">More that is said about it, line {{ n }}.</p>
    </SidePanel>
    <FootBar label="Decide">What is to be decided about all of it.</FootBar>
  </div>
</template>

<style scoped>
.part { padding: 12px 16px; margin-bottom: 12px; display: grid; gap: 10px; }
.row { display: flex; flex-wrap: wrap; gap: 10px 16px; align-items: center; }
.sized { width: 128px; }
</style>
