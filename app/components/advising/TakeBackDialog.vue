<script setup lang="ts">
/** Before an exception is taken back: what that comes to. */
defineProps<{ open: boolean, effect: readonly string[] }>()
const emit = defineEmits<{ close: [], act: [] }>()
</script>

<template>
  <AskDialog
    :model-value="open"
    title="Take the exception back"
    act="Take it back"
    @update:model-value="$event || emit('close')"
    @act="emit('act')"
  >
    <p>The rule holds again for what is registered from now on:</p>
    <ul>
      <li v-for="line in effect" :key="line">{{ line }}</li>
    </ul>
  </AskDialog>
</template>

<style scoped>
p, ul { margin: 0; }
</style>
