import type { StudentFacts } from '@ridgeway/core/record'
import { type ProgramsInput, Reach, type ReachInput, readTogether, smallestSet } from '@ridgeway/core/requirements'

/** What the least is that would meet a line: a few hundred readings, away from the page. */
export interface SmallestAsked {
  asked: ProgramsInput
  index: number
  line: string
  reach: ReachInput
  facts: StudentFacts
}

self.onmessage = ({ data: { asked, index, line, reach, facts } }: MessageEvent<SmallestAsked>) =>
  self.postMessage(smallestSet(asked, readTogether(asked), index, line, { reach: new Reach(reach), facts }))
