<script setup lang="ts">
import { LEDGER_ACTIONS } from '@ridgeway/core/office'

/** What of the ledger is asked for: one kind of act, up to the end of a day, or one student found by name. */
defineProps<{ asked: { action?: string, day?: string } }>()
const emit = defineEmits<{ ask: [change: Record<string, string | null>] }>()
const ACTIONS: string[] = [...LEDGER_ACTIONS]
const text = ref('')
const { people } = usePeople(text)
const found = computed(() => people.value?.students ?? null)
function choose(student: number) {
  text.value = ''
  emit('ask', { student: String(student), section: null })
}
</script>

<template>
  <div class="ledger-filters">
    <v-autocomplete
      :model-value="asked.action ?? null"
      class="field"
      :items="ACTIONS"
      label="What happened"
      bg-color="surface"
      clearable
      @update:model-value="(action: string | null) => emit('ask', { action })"
    />
    <v-text-field
      :model-value="asked.day ?? ''"
      class="field"
      type="date"
      label="Up to the end of"
      bg-color="surface"
      @update:model-value="(day: string) => emit('ask', { day: day || null })"
    />
    <v-text-field v-model="text" class="field" label="Find a student by name" bg-color="surface" />
    <p v-if="found" class="found" role="status">
      <template v-if="!found.length">Nobody is called that.</template>
      <WordLink v-for="one in found" :key="one.id" @click="choose(one.id)">{{ one.name }}</WordLink>
    </p>
  </div>
</template>

<style scoped>
.ledger-filters { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.field { width: 200px; flex: none; }
.found { display: flex; flex-wrap: wrap; gap: 12px; margin: 0; width: 100%; }
</style>
