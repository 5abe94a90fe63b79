import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { GLOSSARY, GUIDES, helpFor } from '@ridgeway/words'
import { guideFiles, withRefusals } from '../../tools/build/guides'

describe('the guides', () => {
  it('say what the screens say', () => {
    for (const [name, text] of guideFiles()) expect([name, readFileSync(`docs/guide/${name}`, 'utf8')]).toEqual([name, text])
    expect(readdirSync('docs/guide').sort()).toEqual([...guideFiles().keys()].sort())
  })
  it('list every refusal of the code in the rules', () => {
    const rules = readFileSync('docs/rules.md', 'utf8')
    expect(rules).toBe(withRefusals(rules))
  })
  it('show pictures that are there, and explain each page once', () => {
    const pages = GUIDES.flatMap(guide => guide.pages)
    for (const { picture } of pages) if (picture) expect([picture, existsSync(`docs/screenshots/${picture}.png`)]).toEqual([picture, true])
    expect(new Set(pages.map(page => page.at)).size).toBe(pages.length)
    for (const page of pages) expect([page.title, page.next.length > 0]).toEqual([page.title, true])
  })
  it('explain every page that people work on: those before signing in, and where one is only sent on, explain themselves', () => {
    const files = readdirSync('app/pages', { recursive: true, encoding: 'utf8' }).filter(file => file.endsWith('.vue'))
    const THEMSELVES = ['kit', 'not-yours', 'set-up', 'sign-in', 'welcome', '[id]', 'pages']
    const at = files.map(file => file.replace(/\.vue$/,
      '').split('/')).map(parts => parts.at(-1) === 'index' ? parts.at(-2) ?? 'pages' : parts.at(-1)!)
    expect(files.length).toBeGreaterThan(25)
    expect(at.filter(one => !THEMSELVES.includes(one) && !helpFor(one))).toEqual([])
  })
  it('have every word once, in order', () => {
    const words = GLOSSARY.map(([word]) => word)
    expect([...new Set(words)].sort((a, b) => a.localeCompare(b))).toEqual(words)
  })
})
