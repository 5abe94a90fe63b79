import type { StudentState } from '#shared/contract/views/student'
import type { Dossier } from '../db/store/dossiers'

type Kind = StudentState['lifted'][number]['kind']
/** Exceptions that lift a rule of registering, and not one of a program. */
export const LIFTED: readonly string[] = ['late add', 'restriction', 'prerequisite', 'load', 'seat', 'clash'] satisfies Kind[]

export const isLifted = (one: Dossier['exceptions'][number]): one is Dossier['exceptions'][number] & { kind: Kind } =>
  LIFTED.includes(one.kind)
