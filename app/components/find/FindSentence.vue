<script setup lang="ts">
/** What is looked for, as one sentence: every part of it opens where it stands. */
const find = useFindStore()
const student = useStudentStore()
const { shown, others } = useSentence()
const asking = ref(false)
const name = ref('')
const problem = ref('')
async function keep() {
  problem.value = (await find.keep(name.value.trim()))?.title ?? ''
  if (problem.value) return
  announce(`The search is kept as ${name.value.trim()}.`)
  asking.value = false
  name.value = ''
}
const searches = computed(() => student.state?.searches ?? [])
const isChanged = computed(() => shown.value.some(part => part.isSet && part.id !== 'canTake') || find.search.text !== ''
  || find.search.hiddenFor)
</script>

<template>
  <div class="sentence">
    <p>
      <FindScope />
      <SentencePart v-for="part in shown" :key="part.id" :part="part" />
      <v-menu v-if="others.length">
        <template #activator="{ props: menu }"><WordLink v-bind="menu" class="small">+ condition</WordLink></template>
        <v-list aria-label="Another condition">
          <v-list-group v-for="part in others" :key="part.id">
            <template #activator="{ props: group }">
              <v-list-item v-bind="group" :title="`${part.before} ${part.words}`" @click.stop />
            </template>
            <v-list-item
              v-for="choice in part.choices.filter(one => one.value !== 'no').slice(0, 40)"
              :key="choice.value"
              :title="choice.words"
              @click="part.choose(choice.value)"
            >
              <template v-if="choice.count !== undefined" #append><span class="second">{{ choice.count }}</span></template>
            </v-list-item>
          </v-list-group>
        </v-list>
      </v-menu>
      <WordLink v-if="isChanged" class="small" @click="find.clear()">begin anew</WordLink>
      <template v-if="student.isOwn">
        <WordLink class="small" @click="asking = true">keep this search</WordLink>
        <v-menu v-if="searches.length">
          <template #activator="{ props: menu }"><WordLink v-bind="menu" class="small">kept searches ▾</WordLink></template>
          <v-list aria-label="Kept searches">
            <v-list-item
              v-for="one in searches"
              :key="one.name"
              :title="one.name"
              @click="find.search = { text: '', ...one.search }; find.run()"
            >
              <template
                #append
              >
                <WordLink class="small" :aria-label="`Let ${one.name} go`" @click.stop="find.letGo(one.name)">let go</WordLink>
              </template>
            </v-list-item>
          </v-list>
        </v-menu>
      </template>
    </p>
    <AskDialog v-model="asking" title="Keep this search" act="Keep" :off="!name.trim() && 'Give it a name first'" @act="keep">
      <p class="second">Its words and conditions, to be looked up again with one press.</p>
      <v-text-field v-model="name" label="Name" maxlength="60" autofocus :error-messages="problem" />
    </AskDialog>
  </div>
</template>

<style scoped>
p { margin: 0; display: flex; flex-wrap: wrap; gap: 6px 8px; align-items: center; line-height: 1.7; }
</style>
