<script setup lang="ts">
/** Says what was done and offers to take it back; it stays long enough to be read, and while it is pointed at. */
const { words } = defineProps<{ words: string }>()
const emit = defineEmits<{ undo: [] }>()
const open = defineModel<boolean>({ required: true })
function undo() {
  open.value = false
  emit('undo')
}
</script>

<template>
  <v-snackbar v-model="open" class="undo-notice" :timeout="12000" location="bottom start" role="status">
    {{ words }}
    <template #actions><ActButton @click="undo">Undo</ActButton></template>
  </v-snackbar>
</template>
