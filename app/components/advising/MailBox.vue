<script setup lang="ts">
import { sayMoment } from '@ridgeway/words'
import type { z } from 'zod'
import { readMails } from '#shared/contract/views/advising'
import { look } from '~/composables/useApi'

/** The demonstration's mailbox: what the college's mail server took for whoever is signed in; nothing leaves this machine. */
const session = useSessionStore()
const mails = shallowRef<z.output<typeof readMails.output>>([])
const opened = ref('')
const load = async () => mails.value = await look(readMails, {}).catch(() => mails.value)
onMounted(load)
useIntervalFn(load, 4000)
</script>

<template>
  <section class="card box" aria-label="The demo's mailbox">
    <h2>Your mailbox in this demonstration</h2>
    <p class="second small">
      Mails are caught on this machine and go nowhere. They say that something happened, and nothing of what stands in a file.
    </p>
    <p v-if="!mails.length" class="second">No mail yet.</p>
    <ul v-else>
      <li v-for="mail in mails" :key="mail.id">
        <WordLink :aria-expanded="opened === mail.id" @click="opened = opened === mail.id ? '' : mail.id">{{ mail.subject }}</WordLink>
        <span class="second small"> {{ sayMoment(mail.at, session.zone) }} · from {{ mail.from }}</span>
        <pre v-if="opened === mail.id">{{ mail.text }}</pre>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.box { padding: 12px 16px; }
p { margin: 4px 0; }
ul { list-style: none; padding: 0; margin: 6px 0 0; }
li { padding: 4px 0; border-top: 1px solid var(--line-soft); }
pre { white-space: pre-wrap; font: inherit; margin: 6px 0 6px 14px; }
</style>
