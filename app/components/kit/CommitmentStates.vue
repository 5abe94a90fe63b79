<script setup lang="ts">
import type { Commitment } from '@ridgeway/core/catalog'

/** Every state of commitment in every hue, and what can be marked on it; for the page of parts. */
const STATES: { state: Commitment | 'considering' | 'waitlist' | 'open', corner: string }[] = [
  { state: 'considering', corner: '3' }, { state: 'open', corner: '' }, { state: 'planned', corner: '3' }, { state: 'picked', corner: '3' },
  { state: 'waitlist', corner: '3rd' }, { state: 'registered', corner: '3' }, { state: 'under way', corner: '3' },
  { state: 'completed', corner: 'B+' },
]
const HUES = ['moss', 'lake', 'clay', 'slate', 'plum', 'fern']
</script>

<template>
  <section class="card" aria-labelledby="kit-states">
    <h2 id="kit-states">Commitment</h2>
    <div v-for="hue in HUES" :key="hue" class="row" :data-hue="hue">
      <CourseBlock
        v-for="{ state, corner } in STATES"
        :key="state"
        class="sized"
        code="HYD 230"
        :title="state"
        :state="state"
        :hue="hue"
        :corner="corner"
        :done="0.6"
      />
    </div>
    <div class="row">
      <CourseBlock class="sized" code="LNG 102" title="off-path" state="planned" off-path />
      <CourseBlock class="sized" code="HYD 310" title="a blocker" state="planned" hue="lake" :problems="1" blocking />
      <CourseBlock class="sized" code="HYD 310" title="a caution" state="planned" hue="lake" :problems="2" />
      <CourseBlock class="sized" code="STT 201" title="pinned" state="planned" hue="moss" pinned />
      <CourseBlock class="sized" code="STT 201" state="completed" hue="moss" compact corner="A" />
    </div>
  </section>
</template>

<style scoped>
.row { display: flex; flex-wrap: wrap; gap: 10px 16px; align-items: center; }
.sized { width: 128px; }
</style>
