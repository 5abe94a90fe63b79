import { join } from 'node:path'
import { type Browser, type BrowserContext, chromium, type Page } from '@playwright/test'
import { ensureBuild, freePort, startServer, STATE } from '../command/machine.mjs'
import { type Figure, median, quantile, round } from './figure'

const TIMES = 7
const MOST = { first: 1500, script: 350, waypoint: 300 }
/** What a person waits for on each view: by then it can be read and used. */
const USEFUL: [name: string, selector: string][] = [
  ['Requirements', '[data-line]'], ['Plan', '.board [data-item]'], ['Week', '[aria-label^="Bundles of"] li'],
  ['Register', '[aria-label="Run sheet"] li'], ['Now', '[aria-label="To do"] li'],
]
const FIRST = '[aria-label="To do"] li'

interface Visit {
  /** From the press of "Sign in", and from an address that is opened with nothing kept, in milliseconds. */
  signIn: number
  address: number
  /** Bytes of script on the wire until the first useful view, and asked for more than once. */
  script: number
  twice: string[]
  shift: number
  waypoints: Record<string, number>
}

/** How long a student waits: signing in with an empty browser until Now can be used, then each waypoint after it. */
export async function benchFirstView(databaseUrl: string): Promise<Figure[]> {
  await ensureBuild()
  const server = await startServer({ databaseUrl, port: await freePort(), demo: true, log: join(STATE, 'first-view.log') })
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] })
  try {
    const visits: Visit[] = []
    for (let i = 0; i <= TIMES; i++) visits.push(await visit(browser, server.address))
    // The first warms the server, as an opening morning would.
    return figuresOf(visits.slice(1))
  }
  finally {
    await browser.close()
    await server.stop()
  }
}

async function visit(browser: Browser, baseURL: string): Promise<Visit> {
  const context = await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } })
  const page = await context.newPage()
  const wire = await listen(context, page)
  // What is on the wire at the first useful view is told by the page, not by whoever looks at it from outside a frame later.
  let script = 0
  await page.exposeFunction('isUseful', () => script ||= wire.script)
  await page.addInitScript((selector) => {
    const watch = new MutationObserver(() => {
      if (!document.querySelector(selector)) return
      watch.disconnect()
      void (window as unknown as { isUseful: () => void }).isUseful()
    })
    watch.observe(document, { childList: true, subtree: true })
  }, FIRST)
  await page.goto('/sign-in')
  await page.getByLabel('Name').fill('tamsin')
  await page.getByLabel('Password').fill('larkmoor')
  const signIn = await until(page, FIRST, () => page.keyboard.press('Enter'))
  const waypoints: Visit['waypoints'] = {}
  for (const [name, selector] of USEFUL)
    waypoints[name] = await until(page, selector, () => page.getByRole('navigation', { name: 'Waypoints' }).getByText(name).click())
  const shift = await page.evaluate(() => new Promise<number>((done) => {
    let sum = 0
    new PerformanceObserver(list => list.getEntries().forEach((entry) => {
      const { value, hadRecentInput } = entry as PerformanceEntry & { value: number, hadRecentInput: boolean }
      if (!hadRecentInput) sum += value
    })).observe({ type: 'layout-shift', buffered: true })
    setTimeout(() => done(sum), 100)
  }))
  const twice = [...new Set(wire.asked.filter((one, i) => wire.asked.indexOf(one) !== i))]
  const cookies = await context.cookies()
  const address = page.url()
  await context.close()
  // The same person at another machine: the address is opened with nothing kept but the session.
  const other = await browser.newContext({ baseURL, viewport: { width: 1280, height: 800 } })
  await other.addCookies(cookies)
  const cold = await other.newPage()
  const opened = await until(cold, FIRST, () => cold.goto(address, { waitUntil: 'commit' }))
  await other.close()
  return { signIn, address: opened, script, twice, shift, waypoints }
}

/** What really goes over the wire: what the browser keeps and takes from there again is no request. */
async function listen(context: BrowserContext, page: Page) {
  const wire = { asked: [] as string[], script: 0 }
  const kinds = new Map<string, { kind: string, name: string }>()
  const browser = await context.newCDPSession(page)
  await browser.send('Network.enable')
  browser.on('Network.requestWillBeSent', ({ requestId, request, type }) =>
    kinds.set(requestId, { kind: type ?? '', name: `${request.method} ${request.url.replace(/^https?:\/\/[^/]+/, '')}` }))
  browser.on('Network.responseReceived', ({ requestId, response }) => {
    const asked = kinds.get(requestId)
    if (asked && !response.fromDiskCache && !response.fromPrefetchCache) wire.asked.push(asked.name)
  })
  browser.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    if (kinds.get(requestId)?.name.endsWith('.js')) wire.script += encodedDataLength
  })
  return wire
}

async function until(page: Page, selector: string, act: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await act()
  await page.locator(selector).first().waitFor()
  return performance.now() - began
}

function figuresOf(visits: readonly Visit[]): Figure[] {
  const timed = (name: string, times: number[], most: number): Figure => ({ name, value: round(median(times), 0), unit: 'ms',
    reference: `${round(Math.min(...times), 0)} to ${round(quantile(times, 1), 0)} in ${times.length}`, ratio: null, target: `≤ ${most}`,
    ok: median(times) <= most })
  const script = Math.max(...visits.map(one => one.script)) / 1000
  const shift = Math.max(...visits.map(one => one.shift))
  const twice = [...new Set(visits.flatMap(one => one.twice))]
  return [
    timed('first view after sign-in', visits.map(one => one.signIn), MOST.first),
    timed('first view of an address, cold', visits.map(one => one.address), MOST.first),
    { name: 'script until the first view', value: round(script, 0), unit: 'kB', reference: 'on the wire', ratio: null,
      target: `≤ ${MOST.script}`, ok: script <= MOST.script },
    ...USEFUL.map(([name]) => timed(`${name}, after the first view`, visits.map(one => one.waypoints[name]!), MOST.waypoint)),
    { name: 'layout shift', value: round(shift, 4), unit: '', reference: 'all views of a visit', ratio: null, target: '0',
      ok: shift === 0 },
    { name: 'asked for twice', value: twice.length, unit: '', reference: twice.join(', ') || 'nothing', ratio: null, target: '0',
      ok: twice.length === 0 },
  ]
}
