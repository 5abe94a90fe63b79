<script setup lang="ts">
/** A question before something that cannot simply be taken back, or with fields in it a form: one act, and a way out. */
const { title, act, busy = false, off = '', width = 460 } = defineProps<AskProps>()
interface AskProps { title: string, act: string, busy?: boolean, off?: string | false, width?: number }
const emit = defineEmits<{ act: [] }>()
const open = defineModel<boolean>({ required: true })
useGivesBack(open)
const id = useId()
</script>

<template>
  <v-dialog v-model="open" :max-width="width" :aria-labelledby="id">
    <v-card class="ask-dialog" tag="form" novalidate @submit.prevent="emit('act')">
      <h2 :id="id">{{ title }}</h2>
      <slot />
      <div class="choices">
        <ActButton weight="full" type="submit" :busy="busy" :off="off">{{ act }}</ActButton>
        <WordLink @click="open = false">Leave it as it is</WordLink>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.ask-dialog { padding: 18px 22px; display: grid; gap: 10px; }
.choices { display: flex; gap: 18px; align-items: center; margin-top: 4px; }
</style>
