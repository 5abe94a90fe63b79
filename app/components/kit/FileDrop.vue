<script setup lang="ts">
/** A file from this device, chosen or dropped; the same one can be given again after it was changed. */
const { label, accept, most } = defineProps<{ label: string, accept: string, most?: number }>()
const emit = defineEmits<{ file: [file: File] }>()
const chosen = ref<File | null>(null)
const tooLarge = ref(false)
function take(given: File | File[] | null) {
  const file = Array.isArray(given) ? given[0] : given
  if (!file) return
  tooLarge.value = most !== undefined && file.size > most
  if (!tooLarge.value) emit('file', file)
  chosen.value = null
}
</script>

<template>
  <v-file-input
    :model-value="chosen"
    class="file-drop"
    :label="label"
    :accept="accept"
    prepend-icon=""
    :clearable="false"
    :error-messages="tooLarge ? `The file is larger than ${Math.round(most! / 1000)} kB.` : ''"
    hide-details="auto"
    @update:model-value="take"
  />
</template>
