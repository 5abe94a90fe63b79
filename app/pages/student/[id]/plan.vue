<script setup lang="ts">
import { formatCredits, newEntryId, termPhase, type CourseItem, type Term } from '@ridgeway/core'

const student = useStudentStore()
const catalog = useCatalogStore()
const workingTerm = useWorkingTermStore()
const route = useRoute()
const { today } = useNow()
const board = usePlanBoard()
const { changed, edit, undo, redo } = usePlanEdit()
const { hueOf, doneOf, isOffPath, checksOf, titleOf } = useItems()

const selectedId = ref<string | null>(String(route.query.about ?? '') || null)
const selected = computed(() => student.standing?.items.find(item => item.id === selectedId.value) ?? null)
const dragged = ref<string | null>(null)
const adding = ref<string | null>(null)
const grid = useTemplateRef<HTMLElement>('grid')

const finish = computed(() => student.standing?.finish ? catalog.term(student.standing.finish)?.name : null)
/** What decides the finish, in courses. */
const chain = computed(() => (student.projection?.chain ?? []).flatMap(id => student.standing?.items.find(item => item.id === id)?.course ?? []))
/** The selected course's slack as a track: the terms it can slide along in its lane. */
const onTrack = (lane: string, term: string) => {
  const item = selected.value
  if (!item?.term || !student.projection?.windows[item.id]?.terms.includes(term)) return false
  return board.cell(lane, item.term).some(other => other.id === item.id)
}
const blockers = computed(() => student.standing?.checks.filter(check => check.severity === 'blocker') ?? [])
const template = computed(() => `150px ${board.showPast.value ? '' : '92px '}repeat(${board.pastColumns.value.length + board.columns.value.length}, minmax(${board.columns.value.length > 8 ? 112 : 104}px, 1fr))`)
const allColumns = computed(() => [...board.pastColumns.value, ...board.columns.value])
const isFuture = (term: Term) => termPhase(term, today.value) === 'future'
const problemsOf = (item: CourseItem) => checksOf(item).length
const isBlocking = (item: CourseItem) => checksOf(item).some(check => check.severity === 'blocker')
const courseChoices = computed(() => [...catalog.courses.values()].map(course => ({ value: course.code, title: `${course.code} ${course.title}` })))

interface Chip { key: string, course: string | null, line: string, words: string, hue: string }
const tray = computed(() => (student.standing?.reports ?? []).flatMap(report => report.areas.flatMap(area => area.lines.filter(line => line.open > 0 && !line.setAside).flatMap((line): Chip[] =>
  line.unfilled.length > 0
    ? line.unfilled.map(code => ({ key: `${report.code}-${code}`, course: code, line: line.id, words: '', hue: area.hue }))
    : [{ key: `${report.code}-${line.id}`, course: null, line: line.id, words: `${line.title}: ${line.missing}`, hue: area.hue }]))))

async function place(code: string, term: Term) {
  const entry = `${newEntryId(code, term.code)}-${crypto.randomUUID().slice(0, 4)}`
  await edit([{ kind: 'place', entry, course: code, term: term.code, credits: catalog.courses.get(code)!.credits }], `${code} placed in ${term.name}`)
  selectedId.value = entry
}
async function addChosen() {
  const code = adding.value
  adding.value = null
  if (code && workingTerm.term) await place(code, workingTerm.term)
}
async function drop(term: Term, lane: string) {
  const id = dragged.value
  dragged.value = null
  if (!id || !isFuture(term)) return
  if (id.startsWith('tray:')) return place(id.slice(5), term)
  const item = student.standing?.items.find(i => i.id === id)
  if (item) await edit(board.operationsFor(item, term, lane), `${item.course} moved to ${term.name}`)
}
async function shift(item: CourseItem, by: 1 | -1) {
  const future = catalog.terms.filter(isFuture).filter(term => term.season !== 'summer' || catalog.courses.get(item.course)?.offered.seasons.includes('summer'))
  const at = future.findIndex(term => term.code === item.term)
  const target = future[at + by]
  if (!target || !board.isMovable(item)) return
  await edit([{ kind: 'move', entry: item.id, term: target.code }], `${item.course} moved to ${target.name}`)
  await nextTick()
  focusTile(item.id)
}
const remove = (item: CourseItem) => edit([{ kind: 'remove', entry: item.id }], `${item.course} taken out`)
const pin = (item: CourseItem) => {
  const entry = student.entries.find(e => e.id === item.id)
  return entry && edit([{ kind: 'pin', entry: entry.id, pinned: !entry.pinned }], `${item.course} ${entry.pinned ? 'unpinned' : 'pinned'}`)
}
const isPinned = (item: CourseItem) => student.entries.find(e => e.id === item.id)?.pinned ?? false
const focusTile = (id: string) => grid.value?.querySelector<HTMLElement>(`[data-item="${CSS.escape(id)}"]`)?.focus()

/** Arrows walk to the nearest tile in that direction, by where the tiles are on the screen. */
function walk(from: HTMLElement, key: string) {
  const here = from.getBoundingClientRect()
  const tiles = [...grid.value!.querySelectorAll<HTMLElement>('[data-item]')].filter(tile => tile !== from)
  const ahead = tiles.map(tile => ({ tile, box: tile.getBoundingClientRect() })).filter(({ box }) =>
    key === 'ArrowRight' ? box.left > here.left + 8 : key === 'ArrowLeft' ? box.left < here.left - 8 : key === 'ArrowDown' ? box.top > here.top + 8 : box.top < here.top - 8)
  const sideways = key === 'ArrowLeft' || key === 'ArrowRight'
  const distance = (box: DOMRect) => Math.abs(box.left - here.left) * (sideways ? 1 : 4) + Math.abs(box.top - here.top) * (sideways ? 4 : 1)
  ahead.sort((a, b) => distance(a.box) - distance(b.box))[0]?.tile.focus()
}
function onTileKey(event: KeyboardEvent, item: CourseItem) {
  if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) void shift(item, event.key === 'ArrowRight' ? 1 : -1)
  else if (event.key.startsWith('Arrow')) walk(event.currentTarget as HTMLElement, event.key)
  else if (event.key === 'Enter' || event.key === ' ') selectedId.value = item.id
  else if (event.key === 'p' && board.isMovable(item)) void pin(item)
  else if (event.key === 'Delete' && board.isMovable(item)) void remove(item)
  else return
  event.preventDefault()
}
useEventListener('keydown', (event: KeyboardEvent) => {
  if (isTyping(event) || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
  event.preventDefault()
  void (event.shiftKey ? redo() : undo())
})
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ student.state?.plan.name }} plan</h1>
      <span class="second small" role="status">{{ student.saving === 'kept here' ? 'kept on this device, will be sent' : student.saving }}</span>
      <button class="words-link small" type="button" :disabled="!student.done.length" @click="undo">Undo <span class="kbd">Ctrl Z</span></button>
      <button class="words-link small" type="button" :disabled="!student.undone.length" @click="redo">Redo</button>
      <span class="spacer" />
      <span><b>{{ finish ? `Finish ${finish}` : 'Not all covered' }}</b> · {{ formatCredits(student.standing!.open) }} cr to place<template v-if="chain.length > 1"> · <span class="second" title="The longest chain of prerequisites in the plan">decided by {{ chain.join(' → ') }}</span></template><template v-if="blockers.length"> · <button class="words-link blocking" type="button" @click="selectedId = blockers[0]!.itemId">{{ count(blockers.length, 'problem') }}</button></template></span>
      <button class="act" type="button" :aria-pressed="board.showAll.value" @click="board.showAll.value = !board.showAll.value">{{ board.showAll.value ? 'Fewer terms' : 'All terms' }}</button>
      <v-autocomplete v-if="student.mayEdit" v-model="adding" class="adder" :items="courseChoices" :label="`Place a course in ${workingTerm.term?.name}`" density="compact" hide-details variant="outlined" bg-color="surface" @update:model-value="addChosen" />
    </div>
    <p class="changed" role="status" aria-live="polite">{{ changed || student.notice }}</p>

    <div ref="grid" class="card board" :style="{ gridTemplateColumns: template }">
      <div class="corner" />
      <button v-if="!board.showPast.value" class="col-head words-link" type="button" @click="board.showPast.value = true">earlier ▸</button>
      <div v-for="term in allColumns" :key="term.code" class="col-head" :class="{ working: term.code === workingTerm.code }">
        <button v-if="term === board.pastColumns.value[0]" class="words-link" type="button" aria-label="Fold earlier terms" @click="board.showPast.value = false">◂</button>
        {{ term.name }}<template v-if="term.code === workingTerm.code"> · working</template>
      </div>
      <template v-for="lane in board.lanes.value" :key="lane.id">
        <div class="lane-head" :class="[`hue-${lane.hue}`, { off: lane.id === 'off-path' }]">
          <span class="strong">{{ lane.title }}</span>
          <span class="small" :class="{ second: !lane.open }">{{ lane.id === 'off-path' ? 'counts for nothing' : lane.open ? `${formatCredits(lane.open)} cr open` : 'covered' }}</span>
        </div>
        <div v-if="!board.showPast.value" class="cell" :class="{ off: lane.id === 'off-path' }">
          <span v-for="item in board.alsoEarly(lane.id)" :key="`also-${item.id}`" class="also small second" title="counts here too">+ {{ item.course }}</span>
          <template v-if="board.early(lane.id).length">
            <span class="past-bar" :class="`hue-${lane.hue}`" :style="{ width: `${Math.min(74, board.early(lane.id).reduce((s, i) => s + i.credits, 0) / 25)}px` }" />
            <span class="small second" :title="board.early(lane.id).map(i => `${i.course} ${i.grade}`).join(', ')">{{ formatCredits(board.early(lane.id).reduce((s, i) => s + i.credits, 0)) }} cr</span>
          </template>
        </div>
        <PlanCell v-for="term in allColumns" :key="term.code" class="cell" :class="{ working: term.code === workingTerm.code, off: lane.id === 'off-path', track: onTrack(lane.id, term.code) }" :accepts="isFuture(term)" @drop="drop(term, lane.id)">
          <PlanTile
            v-for="item in board.cell(lane.id, term.code)" :key="item.id" :item="item" :title="titleOf(item.course)" :hue="hueOf(item)" :done="doneOf(item)" :off-path="isOffPath(item)" :pinned="isPinned(item)"
            :problems="problemsOf(item)" :blocking="isBlocking(item)" :movable="board.isMovable(item)" :selected="item.id === selectedId"
            @drag="dragged = item.id" @open="selectedId = item.id" @keydown="onTileKey($event, item)"
          />
          <span v-for="item in board.also(lane.id, term.code)" :key="`also-${item.id}`" class="also small second" :title="`${item.course} counts here too; its tile stands in the first lane that uses it`">+ {{ item.course }}</span>
        </PlanCell>
      </template>
      <div class="lane-head foot"><span class="strong">Load</span></div>
      <div v-if="!board.showPast.value" class="cell foot small second">{{ formatCredits(student.standing!.earned) }} cr earned</div>
      <div v-for="term in allColumns" :key="`load-${term.code}`" class="cell foot small" :class="{ working: term.code === workingTerm.code }">
        <template v-if="board.load(term.code)?.credits">
          <span class="strong">{{ formatCredits(board.load(term.code)!.credits) }} cr · {{ board.load(term.code)!.hours }} h</span><br>
          <span :class="board.load(term.code)!.overCap ? 'blocking strong' : 'second'">{{ board.load(term.code)!.overCap ? `over the cap of ${formatCredits(term.loadCap)}` : board.load(term.code)!.status }}</span>
        </template>
      </div>
    </div>

    <section v-if="tray.length" class="tray" aria-label="Required and not placed">
      <span class="strong">Not placed</span>
      <template v-for="chip in tray" :key="chip.key">
        <TrayChip v-if="chip.course" :code="chip.course" :title="titleOf(chip.course)" :hue="chip.hue" :movable="student.mayEdit" @drag="dragged = `tray:${chip.course}`" @open="navigateTo({ path: `/student/${student.state!.id}/requirements`, query: { about: chip.line } })" />
        <NuxtLink v-else class="words-link small" :to="{ path: `/student/${student.state!.id}/requirements`, query: { about: chip.line } }">{{ chip.words }}</NuxtLink>
      </template>
    </section>
    <p v-else class="tray second">Everything required has a place.</p>

    <CourseDrawer v-if="selected" :item="selected" :movable="board.isMovable(selected)" :pinned="isPinned(selected)" @close="selectedId = null" @edit="edit" @remove="remove(selected)" @pin="pin(selected)" />
  </div>
</template>

<style scoped>
.adder { width: 250px; flex: none; }
.changed { min-height: 20px; margin: 0 0 4px; color: var(--act); font-weight: 600; font-size: 13px; }
.board { display: grid; overflow-x: auto; }
.col-head { padding: 5px 6px; font-size: 12.5px; color: var(--second); border-left: 1px solid var(--line-soft); white-space: nowrap; }
.col-head.working { color: var(--act); font-weight: 700; }
.corner { position: sticky; left: 0; background: var(--surface); z-index: 2; }
.lane-head { position: sticky; left: 0; z-index: 2; background: var(--surface); border-top: 1px solid var(--line); border-left: 5px solid var(--hue); padding: 7px 8px; display: flex; flex-direction: column; line-height: 1.25; }
.lane-head.off { border-left-color: var(--block); }
.cell { border-top: 1px solid var(--line); border-left: 1px solid var(--line-soft); padding: 5px; min-height: 52px; display: grid; gap: 5px; align-content: start; min-width: 0; }
.cell.working { background: color-mix(in srgb, var(--act-tint) 40%, transparent); }
.cell.track { box-shadow: inset 0 -3px 0 var(--act); }
.cell.off { background-image: repeating-linear-gradient(90deg, color-mix(in srgb, var(--line-soft) 70%, transparent) 0 14px, transparent 14px 28px); }
.past-bar { display: block; height: 9px; border-radius: 2px; background: var(--hue); margin-top: 6px; }
.foot { min-height: 44px; }
.also { border-bottom: 1px dashed var(--line); padding: 1px 3px; white-space: nowrap; }
.lane-head.foot { border-left-color: transparent; }
.tray { display: flex; flex-wrap: wrap; gap: 6px 10px; align-items: center; margin: 10px 0 0; }
</style>
