<script setup lang="ts">
/** The opened student's file: loaded here once, shown by the waypoint inside. */
const route = useRoute()
const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const session = useSessionStore()
const id = computed(() => Number(route.params.id))
/** The review bar stands over the page's foot; what sticks there keeps clear of it. */
const review = useTemplateRef<{ $el: HTMLElement }>('review')
const reviewHeight = ref(0)
useResizeObserver(() => review.value?.$el, ([entry]) => reviewHeight.value = entry!.target.clientHeight)
useEdgeHeight('--review-bar', () => review.value ? reviewHeight.value : 0)
/** Another plan than the current one is looked at where plans are looked at; everywhere else the current one counts. */
const LOOKS_AT_PLANS = /\/(plan|plan-sheet|requirements|compare|map|standing)$/
watch(() => route.path, (path) => {
  if (!LOOKS_AT_PLANS.test(path)) void student.openPlan(null)
})
// What the advisor has seen is noted when they go on to another file, or away.
const advising = useAdvisingStore()
onBeforeRouteUpdate((to, from) => {
  if (to.params.id !== from.params.id) void advising.seen()
})
onBeforeRouteLeave(() => void advising.seen())
watch([id, () => workingTerm.code], () => student.open(id.value), { immediate: true })
/** On pages whose numbers are of one term nothing holds, and nothing is pressed, until the file is read for the term that was turned to. */
const OF_A_TERM = /\/(now|week|register|account|brief)\/?$/
const isReading = computed(() => student.readTerm !== workingTerm.code && OF_A_TERM.test(route.path))
</script>

<template>
  <div :class="{ file: !student.isOwn }">
    <div v-if="catalog.failed && !catalog.ready" class="page">
      <FailedBox :problem="catalog.failed" retry @retry="catalog.load()" />
    </div>
    <div v-else-if="student.failed" class="page"><FailedBox :problem="student.failed" retry @retry="student.load(id)" /></div>
    <template v-else-if="student.state?.id === id && catalog.ready && student.standing">
      <NoticeLine v-if="isReading" class="reading">Reading {{ workingTerm.term?.name }} …</NoticeLine>
      <div class="of-term" :class="{ reading: isReading }" :inert="isReading" :aria-busy="isReading"><NuxtPage /></div>
      <ReviewBar v-if="session.account?.role === 'advisor'" ref="review" />
      <FootBar v-else-if="session.account?.role === 'office'" label="What the office decides">
        <AskedList />
        <LiftRule />
      </FootBar>
    </template>
    <div v-else-if="catalog.ready && catalog.terms.length === 0" class="page">
      <EmptyState>
        <p>The college has no calendar here yet. As soon as the registrar's office has brought its terms in, planning begins.</p>
      </EmptyState>
    </div>
    <div v-else class="page"><GreyShapes class="first" label="Loading the file" :rows="7" /></div>
  </div>
</template>

<style scoped>
/* The bar of whoever advises stands at the foot of the window, also under a short page. */
.file { display: flex; flex-direction: column; min-height: calc(100vh - 93px); }
.file > :deep(.page), .of-term > :deep(.page) { width: 100%; flex: 1; box-sizing: border-box; }
.of-term { display: contents; }
.of-term > :deep(.page) { transition: opacity .1s; }
/* What comes at once is not announced. */
.of-term.reading > :deep(.page) { opacity: .35; transition-delay: .2s; }
.notice.reading { width: auto; margin: 8px clamp(12px, 1.6vw, 20px) 0; animation: come .1s .2s both; }
@keyframes come { from { opacity: 0; height: 0; } }
@media print { .file { display: block; min-height: 0; } }
</style>
