import type { z } from 'zod'
import type * as contract from '#shared/contract/acts/advising'
import { DONE } from '#shared/contract/define'
import type { Doing } from '../college/asked'
import { keepWish, markNoticesRead } from '../db/store/notices'

type Input<Act extends { input: z.ZodType }> = z.output<Act['input']>

export async function readNotices({ tx, actor, at, input }: Doing<Input<typeof contract.readNotices>>) {
  await markNoticesRead(tx, actor, input.upTo, at)
  return DONE
}
export async function wishNotices({ tx, actor, input }: Doing<Input<typeof contract.wishNotices>>) {
  await keepWish(tx, actor, input.wish)
  return DONE
}
