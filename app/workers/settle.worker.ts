import { type ProgramsInput, readTogether } from '@ridgeway/core/requirements'

/** Looks further than a page may take: the same reading with a far larger limit, away from the page. */
const PATIENT = 6000
self.onmessage = ({ data }: MessageEvent<ProgramsInput>) => self.postMessage(readTogether({ ...data, nodeLimit: PATIENT }))
