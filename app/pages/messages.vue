<script setup lang="ts">
import type { Notice, NoticeWish } from '@ridgeway/core/advising'
import { sayMoment, sayNotice } from '@ridgeway/words'

/** What one was told, newest first, each leading to the file; how one wants to hear by mail; in the demonstration the mailbox itself. */
const advising = useAdvisingStore()
const session = useSessionStore()
const problem = ref<Awaited<ReturnType<typeof advising.loadMessages>>>(null)
const newAtFirst = ref(new Set<number>())
onMounted(async () => {
  problem.value = await advising.loadMessages()
  newAtFirst.value = new Set(advising.messages?.notices.filter(one => !one.read).map(one => one.id))
  await advising.readAll()
})
const WISHES = [{ value: 'at once', title: 'a mail as it happens' }, { value: 'digest', title: 'one mail a day, at 17:00' },
  { value: 'none', title: 'no mail' }]
async function choose(wish: NoticeWish) {
  problem.value = await advising.chooseWish(wish)
  if (!problem.value) announce('It is kept.')
}
const notices = computed(() => (advising.messages?.notices ?? []).map(one => ({ ...one,
  said: sayNotice(one.notice, { name: one.name, isOwn: one.student === session.account?.id, zone: session.zone }),
  to: `/student/${one.student}/${pageOf(one.notice)}` })))
/** Where one reads on: a student at Now or at the meetings, an advisor at the brief. */
const pageOf = (notice: Notice) =>
  session.account?.role === 'advisor' ? 'brief' : notice.code.startsWith('meeting') ? 'meetings' : 'now'
</script>

<template>
  <div class="page">
    <PageHead title="Messages" :about="advising.messages ? count(notices.length, 'message') : ''">
      <v-select
        v-if="advising.messages"
        class="wish"
        :model-value="advising.messages.wish"
        :items="WISHES"
        label="By mail"
        bg-color="surface"
        @update:model-value="choose"
      />
    </PageHead>
    <FailedBox v-if="problem" :problem="problem" />
    <GreyShapes v-if="!advising.messages" label="Loading the messages" :rows="5" />
    <EmptyState v-else-if="!notices.length">Nothing yet. What happens in {{ session.account?.role === 'student' ? 'your file'
      : 'your advisees’ files' }} by somebody else is told here.</EmptyState>
    <ul v-else class="card list" aria-label="Messages">
      <li v-for="one in notices" :key="one.id" :class="{ fresh: newAtFirst.has(one.id) }">
        <div>
          <p class="strong">{{ one.said.title }}<span v-if="newAtFirst.has(one.id)" class="new small"> new</span></p>
          <p class="second">{{ [one.said.words, one.said.way].filter(Boolean).join(' ') }}</p>
        </div>
        <span class="second small">{{ sayMoment(one.at, session.zone) }}</span>
        <WordLink :to="one.to">Open</WordLink>
      </li>
    </ul>
    <MailBox v-if="session.demo" />
  </div>
</template>

<style scoped>
.wish { width: 230px; flex: none; }
.list { list-style: none; padding: 0; margin: 0 0 12px; }
li {
  display: grid; grid-template-columns: 1fr auto auto; gap: 16px;
  align-items: center; padding: 9px 14px; border-top: 1px solid var(--line-soft);
}
li:first-child { border-top: 0; }
p { margin: 0; }
.new { color: var(--act); font-weight: 650; }
@media (max-width: 700px) { li { grid-template-columns: 1fr; gap: 4px; } }
</style>
