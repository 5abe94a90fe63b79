<script setup lang="ts">
import type { CourseItem, Term } from '@ridgeway/core/catalog'
import { findLinks, type PlanCheck, type PlanOperation } from '@ridgeway/core/planning'
import { lineRef, type LineRef } from '@ridgeway/core/record'
import { formatCredits, sayLacking, shortTermName } from '@ridgeway/words'
import type { BoardTile } from '~/composables/usePlanMoves'
import type { TouchPlace } from '~/composables/useTouchDrag'

const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const requirements = useRequirementsStore()
const draft = useDraftStore()
const route = useRoute()
const board = usePlanBoard()
const { changed, edit, undo, redo } = usePlanEdit()
const moves = usePlanMoves(board, edit)
const { hueOf, doneOf, isOffPath, checksOf, titleOf } = useItems()
const isPhone = useMediaQuery('(max-width: 700px)')

type Panel = { kind: 'tile', id: string } | { kind: 'problem', id: string } | { kind: 'term', code: string } | { kind: 'draft' } | {
  kind: 'wishes'
} | null
const about = String(route.query.about ?? '')
const panel = ref<Panel>(about ? { kind: 'tile', id: about } : null)
const selectedId = computed(() =>
  panel.value?.kind === 'tile'
    ? panel.value.id
    : panel.value?.kind === 'problem'
      ? problems.value.find(check => check.id === (panel.value as { id: string }).id)?.itemId ?? null
      : null,
)
const selected = computed(() => student.shown?.items.find(item => item.id === selectedId.value) ?? null)
const heldPlace = computed(() => student.plan.placeholders.find(place => place.id === selectedId.value) ?? null)
const marked = ref<string[]>([])
const dragged = ref<string | null>(null)
const adding = ref<string | null>(null)
const grid = useTemplateRef<HTMLElement>('grid')
useRoving(grid, '[data-item]')

const finish = computed(() => student.shown?.finish ? catalog.term(student.shown.finish)?.name : null)
/** What decides the finish, in courses. */
const chain = computed(() =>
  (student.projection?.chain ?? []).flatMap(id => student.standing?.items.find(item => item.id === id)?.course ?? []),
)
const toPlace = computed(() => student.shown?.unplaced ?? 0)
/** What a term's load comes to: its status and cap, or that it is over it. */
function footOf(term: Term): string {
  const load = board.load(term.code)!
  const cap = formatCredits(student.state!.file.capRaised[term.code] ?? term.loadCap)
  return load.overCap ? `over the cap of ${cap}` : `${load.status}, cap ${cap}`
}
/** Every problem in the order in which one walks through them: blockers first, then by term. */
const problems = computed(() =>
  [...student.standing?.checks ?? []].sort((a, b) =>
    Number(b.severity === 'blocker') - Number(a.severity === 'blocker')
    || termIndex(a.term) - termIndex(b.term) || a.id.localeCompare(b.id),
  ),
)
const blockers = computed(() => problems.value.filter(check => check.severity === 'blocker'))
const termIndex = (code: string | null) => code === null ? 999 : catalog.terms.findIndex(term => term.code === code)

/** The selected course's slack as a track: the terms it can slide along in its lane. */
const onTrack = (lane: string, term: string) => {
  const item = selected.value
  if (!item?.term || !student.projection?.windows[item.id]?.terms.includes(term)) return false
  return board.cell(lane, item.term).some(other => other.id === item.id)
}
const links = computed(() =>
  selected.value && !student.preview ? findLinks(selected.value, { items: student.standing!.items, courses: catalog.courses }) : null,
)
const tieOf = (id: string) =>
  links.value?.before.includes(id)
    ? 'comes first'
    : links.value?.beside.includes(id)
      ? 'goes with it'
      : links.value?.after.includes(id)
        ? 'waits for it'
        : ''

const phoneCode = ref(workingTerm.code)
const phoneTerms = computed(() => catalog.terms.filter(term => moves.isFuture(term) || board.columns.value.includes(term)))
const phoneAt = computed(() => Math.max(0, phoneTerms.value.findIndex(term => term.code === phoneCode.value)))
const allColumns = computed(() =>
  isPhone.value ? phoneTerms.value.slice(phoneAt.value, phoneAt.value + 1) : [...board.pastColumns.value, ...board.columns.value],
)
const showsEarlier = computed(() => !isPhone.value && !board.showPast.value)
const isWide = computed(() => allColumns.value.length > 7)
const template = computed(() =>
  isPhone.value
    ? '116px 1fr'
    : `${isWide.value ? 132 : 150}px ${
      showsEarlier.value ? (isWide.value ? '74px ' : '92px ') : ''
    }repeat(${allColumns.value.length}, minmax(${isWide.value ? 98 : 104}px, 1fr))`,
)
/** On a phone only the lanes that say something about the term. */
const lanes = computed(() =>
  isPhone.value
    ? board.lanes.value.filter(lane =>
        lane.open > 0
        || allColumns.value.some(term =>
          board.cell(lane.id, term.code).length + board.heldIn(lane.id, term.code).length + board.also(lane.id, term.code).length > 0,
        ),
      )
    : board.lanes.value,
)

const problemsOf = (item: { id: string }) => checksOf(item).length
const isBlocking = (item: { id: string }) => checksOf(item).some(check => check.severity === 'blocker')
const termProblems = (code: string) => problems.value.filter(check => check.term === code && check.itemId === null)
const entryOf = (id: string) => student.entries.find(entry => entry.id === id)
const isPinned = (item: CourseItem) => entryOf(item.id)?.pinned ?? false
const isGhost = (item: CourseItem) => student.preview !== null && item.state === 'planned' && !entryOf(item.id)
const fromOf = (item: CourseItem) => {
  const entry = student.preview === null ? undefined : entryOf(item.id)
  return entry && entry.term !== item.term ? shortTermName(catalog.term(entry.term)!) : ''
}
const commented = computed(() => new Set(student.state?.comments.map(comment => comment.entry)))
const courseChoices = computed(() =>
  [...catalog.courses.values()].map(course => ({ value: course.code, title: `${course.code} ${course.title}` })),
)
const lineTitle = (line: LineRef) => requirements.lineAt(line)?.title ?? line

/** Where something from the tray goes without being dragged: the term on the phone's screen, else the working term. */
const trayTerm = computed(() => isPhone.value ? allColumns.value[0] : workingTerm.term)

interface Chip {
  key: string
  course: string | null
  program: string
  line: string
  title: string
  words: string
  hue: string
  open: number
}
const tray = computed(() =>
  (student.standing?.reports ?? []).flatMap(report =>
    report.areas.flatMap(area =>
      area.lines.filter(line => line.open > 0 && !line.setAside).flatMap((line): Chip[] => {
        const common = { program: report.code, line: line.id, title: line.title, hue: area.hue, open: line.open }
        const held = student.plan.placeholders.filter(place => place.line === lineRef(report.code, line.id)).reduce(
          (sum, place) => sum + place.credits,
          0,
        )
        if (line.unfilled.length > 0)
          return line.unfilled.map(code => ({ ...common, key: `${report.code}-${code}`, course: code, words: '' }))
        return held >= line.open ? [] : [{ ...common, key: `${report.code}-${line.id}`, course: null, words: sayLacking(line.lacking) }]
      }),
    ),
  ),
)

const tileOf = (id: string): BoardTile | null =>
  student.standing?.items.find(item => item.id === id) ?? student.plan.placeholders.find(place => place.id === id) ?? null
const isMovableId = (id: string) => {
  const item = student.standing?.items.find(one => one.id === id)
  return student.mayEdit && student.preview === null
    && (item ? board.isMovable(item) : student.plan.placeholders.some(place => place.id === id))
}
/** What moves with a tile: all that is marked, when it is one of them. */
const companions = (id: string) =>
  marked.value.includes(id) ? marked.value.flatMap(other => (isMovableId(other) ? tileOf(other) ?? [] : [])) : []

function openTile(id: string, event?: MouseEvent) {
  if (event && (event.ctrlKey || event.metaKey || event.shiftKey)) return mark(id)
  marked.value = []
  panel.value = { kind: 'tile', id }
}
const mark = (id: string) => marked.value = marked.value.includes(id) ? marked.value.filter(other => other !== id) : [...marked.value, id]

async function place(code: string, term: Term) {
  panel.value = { kind: 'tile', id: await moves.place(code, term) }
}
async function addChosen() {
  const code = adding.value
  adding.value = null
  if (code && trayTerm.value) await place(code, trayTerm.value)
}
async function drop(term: Term, lane: string | null) {
  const id = dragged.value
  dragged.value = null
  if (!id || !moves.isFuture(term)) return
  if (id.startsWith('course:')) return place(id.slice(7), term)
  if (id.startsWith('line:')) {
    const chip = tray.value.find(one => one.key === id.slice(5))
    if (chip) await hold(chip, term)
    return
  }
  const tile = tileOf(id)
  if (tile) await moves.move(tile, companions(id), term, lane)
}
async function hold(chip: Chip, term: Term) {
  panel.value = { kind: 'tile', id: await moves.hold(chip.program, { id: chip.line, title: chip.title, open: chip.open }, term) }
}
const dropTouched = (id: string, { term, lane }: TouchPlace) => {
  dragged.value = id
  const target = catalog.term(term)
  if (target) void drop(target, lane)
}
async function chooseFor(code: string) {
  if (heldPlace.value) panel.value = { kind: 'tile', id: await moves.choose(heldPlace.value, code) }
}
async function removeTiles(ids: readonly string[]) {
  const neighbour = [...grid.value?.querySelectorAll<HTMLElement>('[data-item]') ?? []].map(tile => tile.dataset.item!)
  const at = neighbour.indexOf(ids[0] ?? '')
  const next = [...neighbour.slice(at), ...neighbour.slice(0, at).reverse()].find(id => !ids.includes(id))
  const removing = moves.remove(ids.flatMap(id => tileOf(id) ?? []))
  panel.value = null
  marked.value = []
  await nextTick()
  if (next) focusTile(next)
  await removing
}
const pinTiles = (ids: readonly string[]) => moves.pin(ids.flatMap(id => tileOf(id) ?? []))
const focusTile = (id: string) => grid.value?.querySelector<HTMLElement>(`[data-item="${CSS.escape(id)}"]`)?.focus()

function goTo(check: PlanCheck) {
  panel.value = { kind: 'problem', id: check.id }
  const term = check.term
  if (term && isPhone.value) phoneCode.value = term
  nextTick(() => {
    const target = check.itemId ? `[data-item="${CSS.escape(check.itemId)}"]` : term ? `[data-foot="${term}"]` : null
    if (target) grid.value?.querySelector(target)?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  })
}
async function mend(operations: PlanOperation[], what: string) {
  const order = problems.value.map(check => check.id)
  const at = panel.value?.kind === 'problem' ? panel.value.id : ''
  await edit(operations, what)
  // The walk goes on with what came after the mended one.
  const left = new Set(problems.value.map(check => check.id))
  const next = [...order.slice(order.indexOf(at)), ...order].find(id => left.has(id))
  if (panel.value?.kind === 'problem') panel.value = next ? { kind: 'problem', id: next } : { kind: 'problem', id: '' }
}

async function shift(id: string, by: 1 | -1) {
  const tile = tileOf(id)
  if (!tile || !isMovableId(id)) return
  const moving = moves.shift(tile, companions(id), by)
  // The board shows the move at once; the focus goes along then, and not when the server has answered.
  if (isPhone.value) phoneCode.value = tileOf(id)?.term ?? phoneCode.value
  await nextTick()
  focusTile(id)
  await moving
}
/** Into the lane above or below where the course may count too: its use is pinned there. */
async function changeLane(item: CourseItem, by: 1 | -1) {
  const order = board.lanes.value.map(lane => lane.id)
  const term = item.term && catalog.term(item.term)
  if (!term) return
  for (let at = order.indexOf(board.laneOf(item)) + by; at >= 0 && at < order.length; at += by) {
    const operations = board.operationsFor(item, term, order[at]!)
    if (operations.length === 0) continue
    const pinning = edit(operations, `${item.course} pinned to ${board.lanes.value[at]!.title}`)
    await nextTick()
    focusTile(item.id)
    return pinning
  }
}
function onTileKey(event: KeyboardEvent, id: string) {
  const movable = isMovableId(id)
  const item = student.standing?.items.find(one => one.id === id)
  if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) void shift(id, event.key === 'ArrowRight' ? 1 : -1)
  else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown'))
    void (item && movable && changeLane(item, event.key === 'ArrowDown' ? 1 : -1))
  else if (event.key === 'Enter') openTile(id)
  else if (event.key === ' ') mark(id)
  else if (event.key === 'p' && movable) void pinTiles(companions(id).length ? marked.value : [id])
  else if ((event.key === 'Delete' || event.key === 'Backspace') && movable) void removeTiles(companions(id).length ? marked.value : [id])
  else return
  event.preventDefault()
}
useKey('undo', undo)
useKey('redo', redo)
useKey('next problem', () => goTo(problems.value[0]!), () => panel.value?.kind !== 'problem' && problems.value.length > 0)
useCloses(() => marked.value = [], () => marked.value.length > 0)
const changeWords = computed(() =>
  draft.looked ? 'You are looking at a draft: hatched courses would be placed. Nothing is changed yet.' : changed.value || student.notice,
)
watch(() => student.notice, now => now && (changed.value = ''))
</script>

<template>
  <div class="page plan-page">
    <div class="page-head">
      <h1>{{ student.state?.plan.name }} plan</h1>
      <PlanMenu />
      <span class="second small" role="status">{{
        student.saving === 'kept here' ? 'kept on this device, will be sent' : student.saving
      }}</span>
      <WordLink class="small" :off="!student.done.length && 'Nothing to undo'" @click="undo">
        Undo <span class="kbd">Ctrl Z</span>
      </WordLink>
      <WordLink class="small" :off="!student.undone.length && 'Nothing to do again'" @click="redo">Redo</WordLink>
      <span class="spacer" />
      <span class="outcome"
        ><b>{{ finish ? `Finish ${finish}` : 'Not all covered' }}</b> · {{ formatCredits(toPlace) }} cr to place<template
          v-if="chain.length > 1 && !student.preview"
        >
          ·
          <span class="second" title="The longest chain of prerequisites in the plan">decided by {{ chain.join(' → ') }}</span></template
        ></span
      >
      <WordLink v-if="problems.length" :class="{ blocking: blockers.length }" @click="goTo(problems[0]!)">
        {{ count(problems.length, 'problem') }} <span class="kbd">n</span>
      </WordLink>
      <span v-else class="second">no problems</span>
    </div>
    <div class="bar">
      <ActButton v-if="student.mayEdit" weight="full" @click="panel = { kind: 'draft' }">Draft the rest</ActButton>
      <ActButton @click="panel = { kind: 'wishes' }">Wishes and pace</ActButton>
      <ActButton :to="`/student/${student.state!.id}/compare`">Compare</ActButton>
      <ActButton :to="`/student/${student.state!.id}/map`">Prerequisite map</ActButton>
      <ActButton :to="`/student/${student.state!.id}/plan-sheet`">Print</ActButton>
      <PlanFiles />
      <span class="spacer" />
      <ActButton
        v-if="!isPhone"
        :aria-pressed="board.showAll.value"
        @click="board.showAll.value = !board.showAll.value"
      >
        {{ board.showAll.value ? 'Fewer terms' : 'All terms' }}
      </ActButton>
      <v-autocomplete
        v-if="student.mayEdit"
        v-model="adding"
        class="adder"
        :items="courseChoices"
        :label="`Place a course in ${trayTerm?.name}`"
        density="compact"
        hide-details
        variant="outlined"
        bg-color="surface"
        @update:model-value="addChosen"
      />
    </div>
    <NoticeLine v-if="student.state && !student.state.plan.current" class="other">
      This is not {{ student.isOwn ? 'your' : 'the' }} current plan: sign-off and registration do not read it.
      <WordLink @click="student.openPlan(null)">Back to the current plan</WordLink>
    </NoticeLine>
    <p class="changed" role="status" aria-live="polite">{{ changeWords }}</p>
    <p v-if="marked.length" class="marked-line" role="status">
      <b>{{ count(marked.length, 'tile') }} chosen.</b> Drag one of them, or Alt + arrows, and all move.
      <WordLink @click="pinTiles(marked)">Pin</WordLink> ·
      <WordLink class="blocking" @click="removeTiles(marked)">Take out</WordLink> ·
      <WordLink @click="marked = []">Let go</WordLink>
    </p>

    <nav v-if="isPhone" class="phone-terms" aria-label="Terms">
      <ActButton
        :off="phoneAt === 0 && 'This is the first term that can be planned'"
        :data-term="phoneTerms[phoneAt - 1]?.code"
        @click="phoneCode = phoneTerms[phoneAt - 1]!.code"
      >
        ‹ {{ phoneAt > 0 ? shortTermName(phoneTerms[phoneAt - 1]!) : '' }}
      </ActButton>
      <b>{{ allColumns[0]?.name }}</b>
      <ActButton
        :off="phoneAt === phoneTerms.length - 1 && 'This is the last term that is known'"
        :data-term="phoneTerms[phoneAt + 1]?.code"
        @click="phoneCode = phoneTerms[phoneAt + 1]!.code"
      >
        {{ phoneAt < phoneTerms.length - 1 ? shortTermName(phoneTerms[phoneAt + 1]!) : '' }} ›
      </ActButton>
    </nav>

    <div ref="grid" class="card board" :class="{ wide: isWide }" :style="{ gridTemplateColumns: template }">
      <PlanCurves :selected="selectedId" :links="links" :board="grid" :redraw="[student.shown, allColumns]" />
      <div class="corner" />
      <WordLink v-if="showsEarlier" class="col-head" @click="board.showPast.value = true">earlier ▸</WordLink>
      <div v-for="term in allColumns" :key="term.code" class="col-head" :class="{ working: term.code === workingTerm.code }">
        <WordLink
          v-if="term === board.pastColumns.value[0] && !isPhone"
          aria-label="Fold earlier terms"
          @click="board.showPast.value = false"
        >
          ◂
        </WordLink>
        <WordLink
          class="term-name"
          :data-term-head="term.code"
          :title="`About ${term.name}`"
          @click="panel = { kind: 'term', code: term.code }"
        >
          {{ isWide && term.season === 'summer' ? `Summer ${String(term.year).slice(2)}` : term.name }}
        </WordLink>
        <span v-if="student.plan.wishes.termsOff.includes(term.code)" class="small"> off</span>
        <span v-if="student.plan.termNotes[term.code]" class="small" :title="student.plan.termNotes[term.code]"> ✎</span>
        <br /><span class="second head-load"
          >{{ formatCredits(board.load(term.code)?.credits ?? 0) }} cr{{ term.code === workingTerm.code ? ' · working term' : '' }}</span
        >
      </div>
      <template v-for="lane in lanes" :key="lane.id">
        <div class="lane-head" :class="[`hue-${lane.hue}`, { off: lane.id === 'off-path' }]">
          <span class="strong">{{ lane.title }}</span>
          <span class="small" :class="{ second: !lane.open }">{{
            lane.id === 'off-path'
              ? 'counts for nothing'
              : lane.id === 'other-credit'
                ? 'no line, and yet needed'
                : lane.open
                  ? `${formatCredits(lane.open)} cr open`
                  : 'covered'
          }}</span>
        </div>
        <div v-if="showsEarlier" class="cell" :class="{ off: lane.id === 'off-path' }">
          <span v-for="item in board.alsoEarly(lane.id)" :key="`also-${item.id}`" class="also small second" title="counts here too"
            >+ {{ item.course }}</span
          >
          <template v-if="board.early(lane.id).length">
            <span
              class="past-bar"
              :class="`hue-${lane.hue}`"
              :style="{ width: `${Math.min(isWide ? 60 : 74, board.early(lane.id).reduce((s, i) => s + i.credits, 0) / 25)}px` }"
            />
            <span
              class="small second"
              :title="
                board
                  .early(lane.id)
                  .map(i => `${i.course} ${i.grade}`)
                  .join(', ')
              "
              >{{ formatCredits(board.early(lane.id).reduce((s, i) => s + i.credits, 0)) }} cr</span
            >
          </template>
        </div>
        <PlanCell
          v-for="term in allColumns"
          :key="term.code"
          class="cell"
          :class="{ working: term.code === workingTerm.code, off: lane.id === 'off-path', track: onTrack(lane.id, term.code) }"
          :accepts="moves.isFuture(term)"
          :term="term.code"
          :lane="lane.id"
          @drop="drop(term, lane.id)"
        >
          <PlanTile
            v-for="item in board.cell(lane.id, term.code)"
            :key="item.id"
            :item="item"
            :title="titleOf(item.course)"
            :where="`${term.name}, ${lane.title}`"
            :hue="hueOf(item)"
            :done="doneOf(item)"
            :off-path="isOffPath(item)"
            :pinned="isPinned(item)"
            :problems="problemsOf(item)"
            :blocking="isBlocking(item)"
            :movable="isMovableId(item.id)"
            :selected="item.id === selectedId"
            :marked="marked.includes(item.id)"
            :ghost="isGhost(item)"
            :from="fromOf(item)"
            :noted="Boolean(entryOf(item.id)?.note)"
            :commented="commented.has(item.id)"
            :tie="tieOf(item.id)"
            @drag="dragged = item.id"
            @dropped="dropTouched(item.id, $event)"
            @open="openTile(item.id, $event)"
            @keydown="onTileKey($event, item.id)"
          />
          <PlaceholderTile
            v-for="held in board.heldIn(lane.id, term.code)"
            :key="held.id"
            :place="held"
            :title="lineTitle(held.line)"
            :hue="lane.hue"
            :movable="isMovableId(held.id)"
            :selected="held.id === selectedId"
            :marked="marked.includes(held.id)"
            :problems="problemsOf(held)"
            :blocking="isBlocking(held)"
            @drag="dragged = held.id"
            @dropped="dropTouched(held.id, $event)"
            @open="openTile(held.id, $event)"
            @keydown="onTileKey($event, held.id)"
          />
          <span
            v-for="item in board.also(lane.id, term.code)"
            :key="`also-${item.id}`"
            class="also small second"
            :title="`${item.course} counts here too; its tile stands in the first lane that uses it`"
            >+ {{ item.course }}</span
          >
        </PlanCell>
      </template>
      <div class="lane-head foot"><span class="strong">Load</span></div>
      <div v-if="showsEarlier" class="cell foot small second">{{ formatCredits(student.standing!.earned) }} cr earned</div>
      <div
        v-for="term in allColumns"
        :key="`load-${term.code}`"
        class="cell foot small"
        :data-foot="term.code"
        :class="{ working: term.code === workingTerm.code }"
      >
        <template v-if="board.load(term.code)?.credits">
          <span class="strong">{{ formatCredits(board.load(term.code)!.credits) }} cr · {{ board.load(term.code)!.hours }} h</span>
          <span
            :class="board.load(term.code)!.overCap ? 'blocking strong' : 'second'"
            >{{ footOf(term) }}</span
          >
        </template>
        <WordLink
          v-if="termProblems(term.code).length"
          class="small blocking"
          @click="goTo(termProblems(term.code)[0]!)"
        >
          {{ count(termProblems(term.code).length, 'problem') }}
        </WordLink>
      </div>
    </div>

    <section v-if="tray.length && !student.preview" class="tray" aria-label="Required and not placed">
      <span class="strong">Not placed</span>
      <template v-for="chip in tray" :key="chip.key">
        <TrayChip
          v-if="chip.course"
          :code="chip.course"
          :title="titleOf(chip.course)"
          :hue="chip.hue"
          :movable="student.mayEdit"
          @drag="dragged = `course:${chip.course}`"
          @keydown.p="student.mayEdit && trayTerm && place(chip.course, trayTerm)"
          @dropped="dropTouched(`course:${chip.course}`, $event)"
          @open="navigateTo({ path: `/student/${student.state!.id}/requirements`, query: { about: chip.line } })"
        />
        <span v-else class="line-chip">
          <TrayChip
            :code="`${chip.title}: ${chip.words}`"
            :title="chip.title"
            :hue="chip.hue"
            :movable="student.mayEdit"
            @drag="dragged = `line:${chip.key}`"
            @dropped="dropTouched(`line:${chip.key}`, $event)"
            @open="navigateTo({ path: `/student/${student.state!.id}/requirements`, query: { about: chip.line } })"
          />
          <WordLink v-if="student.mayEdit && trayTerm" class="small" @click="hold(chip, trayTerm)">
            Hold a place
          </WordLink>
        </span>
      </template>
    </section>
    <p v-else-if="!student.preview" class="tray second">Everything required has a place.</p>

    <LazyHoldDrawer
      v-if="panel?.kind === 'tile' && heldPlace"
      :place="heldPlace"
      :movable="isMovableId(heldPlace.id)"
      @close="panel = null"
      @edit="edit"
      @choose="chooseFor"
      @remove="removeTiles([heldPlace.id])"
    />
    <LazyCourseDrawer
      v-else-if="panel?.kind === 'tile' && selected"
      :item="selected"
      :movable="isMovableId(selected.id)"
      :pinned="isPinned(selected)"
      @close="panel = null"
      @edit="edit"
      @remove="removeTiles([selected.id])"
      @pin="pinTiles([selected.id])"
    />
    <LazyProblemDrawer
      v-else-if="panel?.kind === 'problem'"
      :checks="problems"
      :at="panel.id"
      @close="panel = null"
      @edit="mend"
      @go="goTo"
      @draft="panel = { kind: 'draft' }"
    />
    <LazyTermDrawer
      v-else-if="panel?.kind === 'term' && catalog.term(panel.code)"
      :term="catalog.term(panel.code)!"
      @close="panel = null"
      @edit="edit"
    />
    <LazyWishesDrawer v-else-if="panel?.kind === 'wishes'" @close="panel = null" @edit="edit" />
    <LazyDraftDrawer v-else-if="panel?.kind === 'draft'" @close="panel = null" @edit="edit" />
  </div>
</template>

<style scoped>
.bar { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin: 2px 0 4px; }
.bar .spacer { flex: 1; }
.link { text-decoration: none; display: inline-flex; align-items: center; }
.adder { width: 250px; flex: none; }
.other { margin: 0 0 6px; }
.changed { min-height: 20px; margin: 0 0 4px; color: var(--act); font-weight: 600; font-size: 13px; }
.marked-line { margin: 0 0 6px; font-size: 13px; }
.board { position: relative; display: grid; overflow-x: auto; }
.col-head { padding: 5px 6px; font-size: 12.5px; color: var(--second); border-left: 1px solid var(--line-soft); white-space: nowrap; }
.col-head.working { color: var(--act); font-weight: 700; }
.wide .col-head { font-size: 12px; padding: 5px 4px; }
.head-load { font-weight: 400; }
.term-name { color: inherit; font-weight: inherit; }
.corner { position: sticky; left: 0; background: var(--surface); z-index: 2; }
.lane-head {
  position: sticky; left: 0; z-index: 2; background: var(--surface); border-top: 1px solid var(--line);
  border-left: 5px solid var(--hue); padding: 7px 8px; display: flex; flex-direction: column; line-height: 1.25;
}
.lane-head.off { border-left-color: var(--block); }
.cell {
  border-top: 1px solid var(--line); border-left: 1px solid var(--line-soft); padding: 5px; min-height: 46px;
  display: grid; gap: 5px; align-content: start; min-width: 0;
}
.wide .cell { padding: 4px; }
.cell.working { background: color-mix(in srgb, var(--act-tint) 40%, transparent); }
.cell.track { box-shadow: inset 0 -3px 0 var(--act); }
.cell.off {
  background-image: repeating-linear-gradient(90deg, color-mix(in srgb, var(--line-soft) 70%, transparent) 0 14px, transparent 14px 28px);
}
.past-bar { display: block; height: 9px; border-radius: 2px; background: var(--hue); margin-top: 6px; }
.foot { min-height: 44px; gap: 1px; }
.also { border-bottom: 1px dashed var(--line); padding: 1px 3px; white-space: nowrap; }
.lane-head.foot { border-left-color: transparent; }
.tray { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; margin: 10px 0 0; }
.line-chip { display: inline-flex; gap: 7px; align-items: center; }
.phone-terms { display: flex; justify-content: space-between; align-items: center; margin: 4px 0 8px; }
.phone-terms .act { min-width: 84px; min-height: 40px; }
.phone-terms .touch-over { background: var(--act-tint); }
@media (max-width: 700px) {
  .plan-page { display: flex; flex-direction: column; }
  .plan-page .bar { order: 1; margin-top: 14px; }
  .plan-page > .drawer { order: 2; }
}
@media (max-width: 700px) {
  .plan-page :deep(.kbd) { display: none; }
  .outcome { flex-basis: 100%; }
  .bar .act { font-size: 12.5px; padding: 3px 8px; }
  .adder { width: 100%; }
  .cell { padding: 6px; }
}
</style>
