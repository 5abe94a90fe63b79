<script setup lang="ts">
import type { MoneyPolicy } from '@ridgeway/core/money'

/** What a credit costs, what comes back when a course is left, and how a term can be paid. */
const money = defineModel<MoneyPolicy>({ required: true })
const catalog = useCatalogStore()
const cents = (text: string) => Math.round(Number(text) * 100)
const setFee = (site: string, text: string) => money.value.siteFees = { ...money.value.siteFees, [site]: cents(text) }
const addBand = () => money.value.bands.push({ code: '', name: '', perCredit: 0 })
const addPlan = () => money.value.plans.push({ code: '', name: '', parts: [{ days: 0, percent: 100 }] })
</script>

<template>
  <section class="card part" aria-label="Tuition and payment">
    <h2>Tuition of a credit, by residence</h2>
    <div v-for="(band, i) in money.bands" :key="i" class="row">
      <v-text-field v-model="band.code" label="Code" maxlength="20" />
      <v-text-field v-model="band.name" label="Name" maxlength="60" />
      <v-text-field
        :model-value="band.perCredit / 100"
        type="number"
        min="0"
        step="0.01"
        label="A credit costs"
        @update:model-value="band.perCredit = cents($event)"
      />
      <WordLink class="small" :aria-label="`Take out ${band.name}`" @click="money.bands.splice(i, 1)">take out</WordLink>
    </div>
    <p><WordLink @click="addBand">+ band</WordLink></p>
    <h2>Fees of a section that meets at</h2>
    <div class="fees">
      <v-text-field
        v-for="site in catalog.sites.filter(one => !one.online)"
        :key="site.code"
        :model-value="(money.siteFees[site.code] ?? 0) / 100"
        type="number"
        min="0"
        step="0.01"
        :label="site.name"
        @update:model-value="setFee(site.code, $event)"
      />
    </div>
    <h2>What comes back when a course is left</h2>
    <p class="second small">Everything until the last day to drop; after it:</p>
    <div v-for="(step, i) in money.refunds" :key="i" class="row">
      <v-text-field v-model.number="step.share" type="number" min="0" max="100" label="Up to % of session" />
      <v-text-field v-model.number="step.percent" type="number" min="0" max="100" label="Percent that comes back" />
      <span />
      <WordLink class="small" :aria-label="`Take out step ${i + 1}`" @click="money.refunds.splice(i, 1)">take out</WordLink>
    </div>
    <p><WordLink @click="money.refunds.push({ share: 0, percent: 0 })">+ step</WordLink></p>
    <h2>Ways of paying a term</h2>
    <div v-for="(plan, i) in money.plans" :key="i" class="plan">
      <div class="row">
        <v-text-field v-model="plan.code" label="Code" maxlength="20" />
        <v-text-field v-model="plan.name" label="Name" maxlength="60" />
        <WordLink class="small" :aria-label="`Add a part to ${plan.name}`" @click="plan.parts.push({ days: 0, percent: 0 })"
          >+ part</WordLink
        >
        <WordLink class="small" :aria-label="`Take out ${plan.name}`" @click="money.plans.splice(i, 1)">take out</WordLink>
      </div>
      <div v-for="(part, p) in plan.parts" :key="p" class="row inner">
        <v-text-field v-model.number="part.days" type="number" min="0" label="Days after due" />
        <v-text-field v-model.number="part.percent" type="number" min="0" max="100" label="Percent of the whole" />
        <span />
        <WordLink v-if="plan.parts.length > 1" class="small" :aria-label="`Take out part ${p + 1}`" @click="plan.parts.splice(p, 1)"
          >take out</WordLink
        >
      </div>
    </div>
    <p><WordLink @click="addPlan">+ way of paying</WordLink></p>
    <div class="fees">
      <v-text-field v-model.number="money.lateDays" type="number" min="0" label="Days to pay for who registers late" />
      <v-text-field v-model.number="money.graceDays" type="number" min="0" label="Days after the due date until it is voided" />
    </div>
  </section>
</template>

<style scoped>
.part { padding: 10px 16px 14px; display: grid; gap: 8px; }
h2 { margin: 8px 0 0; }
p { margin: 0; }
.row { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr) minmax(0, 1fr) auto; gap: 10px; align-items: center; }
.inner { padding-left: 18px; }
.plan { display: grid; gap: 8px; }
.fees { display: grid; grid-template-columns: repeat(3, minmax(0, 1fr)); gap: 10px; }
@media (max-width: 700px) { .row, .fees { grid-template-columns: 1fr 1fr; } }
</style>
