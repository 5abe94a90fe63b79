import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { packFolder, readGiven } from '../../app/composables/college-files'

/** Files that somebody gives to the office's page: read in the browser before anything is sent. */
const file = (name: string, content: string | Uint8Array) => new File([content as BlobPart], name)
describe('files that are given', () => {
  it('are tables, programs and zipped folders; what else lies in a folder is left aside', async () => {
    const packed = zipSync({ 'hill/sites.csv': strToU8('site,name\r\n'), 'hill/programs/a.json': strToU8('{}'),
      'hill/photo.jpg': strToU8('x') })
    expect(await readGiven([file('hill.zip', packed), file('terms.csv', 'term'), file('b.json', '{"b":1}'), file('college.json', '{}')]))
      .toEqual({ ok: true, files: { 'hill/sites.csv': 'site,name\r\n', 'hill/programs/a.json': '{}', 'terms.csv': 'term',
        'programs/b.json': '{"b":1}', 'college.json': '{}' } })
  })

  it('a zip that unpacks to far more than it is, one that is none, and other files are refused in words', async () => {
    const bomb = zipSync({ 'sites.csv': new Uint8Array(60_000_000) }, { level: 9 })
    expect(bomb.length).toBeLessThan(100_000)
    expect(await readGiven([file('bomb.zip', bomb)])).toMatchObject({ ok: false, why: expect.stringContaining('more than 28 MB') })
    expect(await readGiven([file('broken.zip', bomb.slice(0, 500))])).toMatchObject({ ok: false,
      why: expect.stringContaining('no zip file') })
    expect(await readGiven([file('plan.pdf', 'x')])).toMatchObject({ ok: false, why: expect.stringContaining('plan.pdf is not read here') })
    expect(await readGiven([file('empty.zip', zipSync({ 'a.txt': strToU8('x') }))])).toMatchObject({ ok: false })
  })

  it('a packed folder has the same bytes whenever it is packed, and is read again as it was', async () => {
    const files = { 'sites.csv': 'site,name\r\nhöhe,Höhe\r\n', 'programs/x.json': '{}' }
    const packed = packFolder(files)
    expect(packFolder(files)).toEqual(packed)
    expect(await readGiven([file('college.zip', packed)])).toEqual({ ok: true, files })
  })
})
