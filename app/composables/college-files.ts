import { COLLEGE_FILE, PLANS_FILE, RECORDS_FILE } from '@ridgeway/formats'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'

/** Files of a folder by name, or why they cannot be read. */
export type GivenFiles = { ok: true, files: Record<string, string> } | { ok: false, why: string }

/** Most that files may come to when they are unpacked, in bytes: what one request takes. */
const MOST = 28_000_000
const MB = 1_000_000
const isOurs = (name: string) => /\.(csv|json)$/i.test(name)

/** Reads tables, programs and zipped folders from this device; what unpacks to far more than it is, is not unpacked. */
export async function readGiven(given: readonly File[]): Promise<GivenFiles> {
  const files: Record<string, string> = {}
  let size = 0
  const tooLarge = { ok: false as const,
    why: `These come to more than ${MOST / MB} MB. Send them in several steps, or bring them in on the server with ./ridgeway import.` }
  for (const file of given) {
    size += file.size
    if (size > MOST) return tooLarge
    const bytes = new Uint8Array(await file.arrayBuffer())
    if (/\.zip$/i.test(file.name)) {
      let unpacked = 0
      try {
        const found = unzipSync(bytes, { filter: (one) => {
          if (!isOurs(one.name)) return false
          unpacked += one.originalSize
          return size + unpacked <= MOST
        } })
        if (size + unpacked > MOST) return tooLarge
        for (const [name, content] of Object.entries(found)) files[name] = strFromU8(content)
      }
      catch {
        return { ok: false, why: `${file.name} is no zip file that can be read. Pack the folder again.` }
      }
    }
    else if (isOurs(file.name)) {
      // A program that is given by itself has no folder around it.
      const isLoose = /\.json$/i.test(file.name) && ![COLLEGE_FILE, RECORDS_FILE, PLANS_FILE].includes(file.name)
      files[isLoose ? `programs/${file.name}` : file.name] = new TextDecoder().decode(bytes)
    }
    else return { ok: false, why: `${file.name} is not read here. Give tables (.csv), programs (.json), or a folder packed as .zip.` }
  }
  return Object.keys(files).length > 0
    ? { ok: true, files }
    : { ok: false, why: 'There is no table and no program in it.' }
}

/** A folder packed for this device; the same files give the same bytes. */
export const packFolder = (files: Readonly<Record<string, string>>): Uint8Array =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])), { mtime: '1980-01-01T00:00:00' })
