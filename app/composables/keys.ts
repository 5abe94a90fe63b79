/** Every key of Ridgeway, where it works, and what it does. Those without keys here belong to what has the focus. */
export const KEYS = {
  'help': { keys: ['?'], shown: '?', does: 'what this page is, keys and words', scope: 'everywhere' },
  'waypoint': { keys: ['1', '2', '3', '4', '5'], shown: '1 – 5', does: 'the waypoints', scope: 'in a student\'s file' },
  'find': { keys: ['/'], shown: '/', does: 'find sections and courses', scope: 'in a student\'s file' },
  'working term': { keys: ['g t'], shown: 'g t', does: 'choose the working term', scope: 'everywhere' },
  'close': { keys: ['Escape'], shown: 'Esc', does: 'close what lies on top', scope: 'everywhere' },
  'walk': { keys: [], shown: '← → ↑ ↓', does: 'walk between tiles, lines and rows', scope: 'everywhere' },
  'next problem': { keys: ['n'], shown: 'n', does: 'next problem', scope: 'on the plan' },
  'previous problem': { keys: ['N'], shown: 'N', does: 'previous problem', scope: 'on the plan' },
  'undo': { keys: ['Ctrl z'], shown: 'Ctrl + Z', does: 'undo', scope: 'on the plan' },
  'redo': { keys: ['Ctrl Shift Z'], shown: 'Ctrl + Shift + Z', does: 'do it again', scope: 'on the plan' },
  'previous arrangement': { keys: ['['], shown: '[', does: 'the arrangement before', scope: 'in the week' },
  'next arrangement': { keys: [']'], shown: ']', does: 'the arrangement after', scope: 'in the week' },
  'move a tile': { keys: [], shown: 'Alt + ← →', does: 'move it a term', scope: 'on a tile' },
  'change its lane': { keys: [], shown: 'Alt + ↑ ↓', does: 'count it in another lane', scope: 'on a tile' },
  'choose several': { keys: [], shown: 'Space', does: 'choose several', scope: 'on a tile' },
  'open': { keys: [], shown: 'Enter', does: 'open it', scope: 'on a tile' },
  'pin': { keys: [], shown: 'p', does: 'pin it; in the tray, place it', scope: 'on a tile' },
  'plan it': { keys: [], shown: 'p', does: 'plan the course', scope: 'in Find' },
  'shortlist': { keys: [], shown: 's', does: 'put it on the shortlist', scope: 'in Find' },
  'compare': { keys: [], shown: 'c', does: 'put it beside others', scope: 'in Find' },
  'sheet': { keys: [], shown: 'i', does: 'all about the section', scope: 'in Find and in the week' },
  'next in the queue': { keys: ['j'], shown: 'j', does: 'the next advisee', scope: 'in the queue' },
  'previous in the queue': { keys: ['k'], shown: 'k', does: 'the advisee before', scope: 'in the queue' },
  'sign off': { keys: ['s'], shown: 's', does: 'sign off the term as it is shown', scope: 'on the brief' },
  'return': { keys: ['r'], shown: 'r', does: 'give the plan back with words', scope: 'on the brief' },
  'take out': { keys: [], shown: 'Delete', does: 'take it out of the plan', scope: 'on a tile' },
} as const satisfies Record<string, { keys: string[], shown: string, does: string, scope: string }>
type Key = keyof typeof KEYS

/** How long the second of two keys is waited for, in milliseconds. */
const SEQUENCE_MS = 1500

/** Whether single letters act; who dictates, or presses keys unawares, turns them off. */
export const useLetterKeys = () => useLocalStorage('ridgeway.letter-keys', true)

/** True while somebody types into a field, where letters are letters. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return event.defaultPrevented || (target !== null && (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable))
}

/** Does something at a key of the table, while `when` holds: never while somebody types, nor under a menu or a dialog. */
export function useKey(name: Key, act: (event: KeyboardEvent) => void, when: () => boolean = () => true) {
  const letters = useLetterKeys()
  let before = { key: '', at: 0 }
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (isTyping(event) || event.altKey || isCovered()) return
    const withCtrl = event.ctrlKey || event.metaKey
    if (!withCtrl && !letters.value) return
    const pressed = withCtrl ? `Ctrl ${event.shiftKey ? `Shift ${event.key.toUpperCase()}` : event.key.toLowerCase()}` : event.key
    const sequence = event.timeStamp - before.at < SEQUENCE_MS ? `${before.key} ${pressed}` : ''
    before = { key: pressed, at: event.timeStamp }
    if (!KEYS[name].keys.some(key => key === pressed || key === sequence) || !when()) return
    event.preventDefault()
    act(event)
  })
}
