<script setup lang="ts">
/**
 * A button for something that is done. `full` is the one thing to do here, `edge` anything else.
 * With `off` it does nothing and says why: it keeps its place for the keyboard, and tells the reason to whoever points at it or reads it.
 */
const { weight = 'edge', off = '', busy = false } = defineProps<{
  weight?: 'full' | 'edge'
  off?: string | false | null
  busy?: boolean
}>()
const still = useStill(() => off, () => busy)
</script>

<template>
  <v-btn class="act" :class="weight" :variant="weight === 'full' ? 'flat' : 'outlined'" :ripple="false" v-bind="still">
    <slot /><v-tooltip v-if="off" activator="parent" location="top" :eager="false" :text="off" />
  </v-btn>
</template>
