import type { ApiToken } from '#shared/contract/views/tokens'
import type { Looking } from '../college/asked'
import { Refusal } from '../college/refusal'
import { tokensOf } from '../db/store/tokens'

/** Tokens that stand: one's own, or for the office everybody's. */
export async function readTokensView({ db, visitor, input }: Looking<{ whose: 'mine' | 'all' }>): Promise<ApiToken[]> {
  if (input.whose === 'all' && visitor!.role !== 'office')
    throw new Refusal(403, 'wrong-role', `This is not for ${visitor!.role} accounts.`, 'Look at your own tokens.')
  return await tokensOf(db, input.whose === 'all' ? null : visitor!.id, new Date().toISOString()) as ApiToken[]
}
