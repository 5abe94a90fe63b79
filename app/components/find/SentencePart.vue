<script setup lang="ts">
import type { Part } from '~/composables/find/sentence'

/** A part of the sentence: pressed, it opens with its choices and what each would leave. */
const { part } = defineProps<{ part: Part }>()
const open = ref(false)
</script>

<template>
  <span class="part">
    {{ part.before }}
    <v-menu v-model="open" :close-on-content-click="!part.many">
      <template #activator="{ props: menu }">
        <WordLink
          v-bind="menu"
          class="words-of"
          :class="{ set: part.isSet }"
          :aria-label="`${part.before} ${part.words}: change`"
        >
          {{ part.words }}
        </WordLink>
      </template>
      <v-list class="choices" :aria-label="part.before" :select-strategy="part.many ? 'independent' : 'single-independent'">
        <v-list-item v-if="part.isSet && part.many" title="No matter" @click="part.clear()" />
        <v-list-item
          v-for="choice in part.choices"
          :key="choice.value"
          :active="choice.on"
          :aria-selected="choice.on"
          :title="choice.words"
          @click="part.choose(choice.value)"
        >
          <template v-if="choice.count !== undefined" #append><span class="second">{{ choice.count }}</span></template>
        </v-list-item>
      </v-list>
    </v-menu>
  </span>
</template>

<style scoped>
.part { white-space: nowrap; }
.words-of.words-of {
  border: 1px solid var(--line); border-radius: 15px; padding: 3px 11px; color: var(--ink); background: var(--surface); font-weight: 400;
}
.words-of.set { border-color: var(--act); background: var(--act-tint); }
.choices { max-height: 340px; overflow: auto; min-width: 190px; }
@media (max-width: 700px) { .part { white-space: normal; } }
</style>
