<script setup lang="ts">
import { useTheme } from 'vuetify'

const theme = useTheme()
const dark = usePreferredDark()
watchEffect(() => theme.change(dark.value ? 'dark' : 'light'))
</script>

<template>
  <v-app>
    <NuxtLayout>
      <NuxtPage />
    </NuxtLayout>
  </v-app>
</template>
