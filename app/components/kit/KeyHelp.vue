<script setup lang="ts">
/** Every key, by where it works, and the switch for those who press letters unawares or by voice. */
const open = defineModel<boolean>({ required: true })
useGivesBack(open)
const letters = useLetterKeys()
const scopes = Object.values(KEYS).reduce((all, key) => all.set(key.scope, [...all.get(key.scope) ?? [], key]),
  new Map<string, { shown: string, does: string }[]>())
</script>

<template>
  <v-dialog v-model="open" max-width="460" aria-labelledby="keys-title">
    <v-card class="keys">
      <h2 id="keys-title">Keys</h2>
      <template v-for="[scope, keys] in scopes" :key="scope">
        <h3 class="second small">{{ scope }}</h3>
        <dl>
          <template v-for="key in keys" :key="key.shown">
            <dt>
              <span class="kbd">{{ key.shown }}</span>
            </dt>
            <dd>{{ key.does }}</dd>
          </template>
        </dl>
      </template>
      <v-switch v-model="letters" label="Letters and numbers alone are keys" color="primary" />
      <div><ActButton autofocus @click="open = false">Close</ActButton></div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.keys { padding: 16px 20px; }
h3 { margin-top: 8px; }
dl { display: grid; grid-template-columns: 120px 1fr; gap: 5px 14px; margin: 4px 0; }
dd { margin: 0; }
</style>
