<script setup lang="ts">
import { GLOSSARY, helpFor } from '@ridgeway/words'

/** What this page is and what its marks mean, every key by where it works, and the words on the screens. */
const open = defineModel<boolean>({ required: true })
useGivesBack(open)
const route = useRoute()
const letters = useLetterKeys()
const page = computed(() => helpFor(route.query.find !== undefined ? 'find' : route.path.split('/').at(-1) ?? ''))
const tab = ref<'page' | 'keys' | 'words'>('page')
watch([open, page], () => tab.value = page.value ? 'page' : 'keys', { immediate: true })
const scopes = Object.values(KEYS).reduce((all, key) => all.set(key.scope, [...all.get(key.scope) ?? [], key]),
  new Map<string, { shown: string, does: string }[]>())
</script>

<template>
  <v-dialog v-model="open" max-width="560" aria-labelledby="help-title">
    <v-card class="help">
      <h2 id="help-title">{{ page ? `Help: ${page.title}` : 'Help' }}</h2>
      <v-tabs v-model="tab" density="compact">
        <v-tab v-if="page" value="page">This page</v-tab>
        <v-tab value="keys">Keys</v-tab>
        <v-tab value="words">Words</v-tab>
      </v-tabs>
      <div v-if="tab === 'page' && page" class="body">
        <p>{{ page.first }}</p>
        <h3 class="second small">What to do here</h3>
        <ul>
          <li v-for="one in page.next" :key="one">{{ one }}</li>
        </ul>
        <template v-if="page.marks.length">
          <h3 class="second small">What marks mean</h3>
          <dl>
            <template v-for="[mark, means] in page.marks" :key="mark">
              <dt>{{ mark }}</dt>
              <dd>{{ means }}</dd>
            </template>
          </dl>
        </template>
      </div>
      <div v-else-if="tab === 'keys'" class="body">
        <template v-for="[scope, keys] in scopes" :key="scope">
          <h3 class="second small">{{ scope }}</h3>
          <dl>
            <template v-for="key in keys" :key="key.shown">
              <dt>
                <span class="kbd">{{ key.shown }}</span>
              </dt>
              <dd>{{ key.does }}</dd>
            </template>
          </dl>
        </template>
        <v-switch v-model="letters" label="Letters and numbers alone are keys" color="primary" />
      </div>
      <dl v-else class="body">
        <template v-for="[word, means] in GLOSSARY" :key="word">
          <dt>{{ word }}</dt>
          <dd>{{ means }}</dd>
        </template>
      </dl>
      <div><ActButton autofocus @click="open = false">Close</ActButton></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.help { padding: 16px 20px; }
.body { max-height: 62vh; overflow-y: auto; margin: 8px 0; }
h3 { margin: 10px 0 2px; }
p, ul { margin: 2px 0 6px; }
ul { padding-left: 18px; }
dl { display: grid; grid-template-columns: 150px 1fr; gap: 5px 14px; margin: 4px 0; }
dt { font-weight: 700; }
dd { margin: 0; }
</style>
