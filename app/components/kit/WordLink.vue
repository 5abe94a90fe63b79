<script setup lang="ts">
/** Words that can be pressed: a small act beside what it is about, or with `to` a way to a page. `off` as for `ActButton`. */
const { off = '', busy = false } = defineProps<{ off?: string | false | null, busy?: boolean }>()
const still = useStill(() => off, () => busy)
</script>

<template>
  <v-btn class="words-link" variant="plain" :ripple="false" v-bind="still">
    <slot /><v-tooltip v-if="off" activator="parent" location="top" :eager="false" :text="off" />
  </v-btn>
</template>
