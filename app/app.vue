<script setup lang="ts">
import { useTheme } from 'vuetify'

const theme = useTheme()
const look = useLook()
const isDark = usePreferredDark()
watchEffect(() => theme.change(look.value === 'system' ? (isDark.value ? 'dark' : 'light') : look.value))
</script>

<template>
  <v-app>
    <NuxtRouteAnnouncer />
    <NuxtLayout>
      <NuxtPage />
    </NuxtLayout>
  </v-app>
</template>
