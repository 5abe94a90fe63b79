import { FetchError, type FetchOptions } from 'ofetch'
import { ref, type Ref } from 'vue'
import type { z } from 'zod'
import type { Act, FileView, View } from '#shared/contract/define'
import type { Problem } from '#shared/contract/problems'
import type { Sheet, StudentState, Week } from '#shared/contract/views/student'

export type { Problem }

/** What an address names, and which views of the student the page shows, so that an act answers with them. */
interface At {
  id?: number
  plan?: number
  shown?: { term: string, plan?: number, show: readonly FileView[] }
  /** Ends the asking; what the server has begun it may still finish. */
  signal?: AbortSignal
}
/** The views that an act changed, as they are now. */
export interface Changed { student?: StudentState, week?: Week, sheet?: Sheet }

/** What an act is answered with; in a crowd without the views, which are to be asked for after so many milliseconds. */
interface Answered<Output extends z.ZodType> { answer: z.output<Output>, views: Changed, later?: number }

/** Whether the last request found no server; every page shows it the same way. */
const away = ref(false)
export const useAway = (): Readonly<Ref<boolean>> => away

let signedOut: () => void = () => {}
/** What to do when any request hears that the session has ended. */
export const onSignedOut = (act: () => void) => {
  signedOut = act
}

const addressOf = (path: string, at: At) => path.replace(':id', String(at.id ?? '')).replace(':plan', String(at.plan ?? ''))

/** Reads a view. Throws what `toProblem` turns into words. */
export async function look<Input extends z.ZodType, Output extends z.ZodType>(view: View<Input, Output>, input: z.input<Input>,
  at: At = {}): Promise<z.output<Output>> {
  return await send(view.path, at, { query: input as Record<string, string> }) as z.output<Output>
}

/** Does an act. Throws what `toProblem` turns into words. */
export async function call<Input extends z.ZodType, Output extends z.ZodType>(act: Act<Input, Output>, input: z.input<Input>,
  at: At = {}): Promise<Answered<Output>> {
  const { shown } = at
  const query = { ...shown ? { term: shown.term, show: shown.show.join(), ...shown.plan ? { plan: shown.plan } : {} } : {},
    ...act.method === 'DELETE' ? input as object : {} }
  return await send(act.path, at, { method: act.method as 'POST', query, ...at.signal ? { signal: at.signal } : {},
    ...act.method === 'DELETE' ? {} : { body: input as Record<string, unknown> } }) as Answered<Output>
}

async function send(path: string, at: At, options: FetchOptions<'json'>): Promise<unknown> {
  try {
    const early = options.method ? undefined : takeEarly(path)
    const answer = await (early ?? $fetch<unknown>(addressOf(path, at), options as object))
    away.value = false
    return answer
  }
  catch (error) {
    const { code } = toProblem(error)
    away.value = code === 'no-connection'
    if (code === 'signed-out') signedOut()
    throw error
  }
}

/** Turns whatever a request threw into words; a lost connection says that nothing was lost. */
export function toProblem(error: unknown): Problem {
  if (error instanceof FetchError && error.data && typeof error.data === 'object' && 'title' in error.data) {
    const { code, title, detail, status } = error.data as Problem
    return { code, title, detail, status }
  }
  if (error instanceof FetchError && error.status && error.status >= 500)
    return { code: 'server-failed', title: 'Ridgeway has a problem of its own just now.',
      detail: 'Reload the page in a moment and look what was kept before you try again.', status: error.status }
  return { code: 'no-connection', title: 'Ridgeway cannot be reached.',
    detail: 'What you did is kept here and can be sent again. Check the connection and try again.', status: 0 }
}
