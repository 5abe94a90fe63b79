<script setup lang="ts">
/** Where is looked: how the sentence begins. */
const find = useFindStore()
const workingTerm = useWorkingTermStore()
const scopes = computed(() => ({ sections: `Sections in ${workingTerm.term?.name ?? ''}`, courses: 'Courses of the whole catalog' }))
</script>

<template>
  <v-menu>
    <template #activator="{ props: menu }">
      <WordLink v-bind="menu" class="scope" :aria-label="`${scopes[find.scope]}: look elsewhere`">{{ scopes[find.scope] }} ▾</WordLink>
    </template>
    <v-list aria-label="Where to look">
      <v-list-item v-for="(words, key) in scopes" :key="key" :title="words" :active="key === find.scope" @click="find.scope = key" />
    </v-list>
  </v-menu>
</template>

<style scoped>
.scope.scope { color: var(--ink); font-weight: 700; }
</style>
