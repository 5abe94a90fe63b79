<script setup lang="ts">
/** Work that takes a while: how far it is, in what stage, and a way to stop it. `share` from 0 to 1; null while it is not known. */
defineProps<{ label: string, share: number | null, stage?: string }>()
defineEmits<{ cancel: [] }>()
</script>

<template>
  <div class="long-work">
    <v-progress-linear
      :model-value="(share ?? 0) * 100"
      :indeterminate="share === null"
      :aria-label="label"
      color="primary"
      height="6"
      rounded
    />
    <span class="second small" role="status">{{ stage }}</span>
    <ActButton @click="$emit('cancel')">Cancel</ActButton>
  </div>
</template>

<style scoped>
.long-work { display: grid; grid-template-columns: minmax(120px, 240px) auto auto; gap: 12px; align-items: center; justify-content: start; }
</style>
