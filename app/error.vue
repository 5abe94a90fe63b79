<script setup lang="ts">
import type { NuxtError } from '#app'

const props = defineProps<{ error: NuxtError }>()
const missing = computed(() => props.error.statusCode === 404)
const back = () => clearError({ redirect: '/' })
</script>

<template>
  <main class="page" style="max-width: 640px; padding-top: 80px">
    <h1>{{ missing ? 'There is no page at this address.' : 'This page could not be shown.' }}</h1>
    <p>
      {{ missing ? 'The link may be old.' : 'Nothing you did is lost; everything is saved as you do it.' }} Go back to your start page and
      take it from there.
    </p>
    <ActButton weight="full" @click="back">To my start page</ActButton>
  </main>
</template>
