import * as advisingActs from './acts/advising'
import * as collegeActs from './acts/college'
import * as officeActs from './acts/office'
import * as tokenActs from './acts/tokens'
import * as studentActs from './acts/student'
import type { Act, View } from './define'
import * as advisingViews from './views/advising'
import * as collegeViews from './views/college'
import * as demandViews from './views/demand'
import * as findViews from './views/find'
import * as officeViews from './views/office'
import * as tokenViews from './views/tokens'
import * as studentViews from './views/student'

const declared = (modules: Record<string, unknown>[]) => modules.flatMap(module => Object.values(module)) as unknown[]
const isOf = <K extends 'act' | 'view'>(kind: K) => (one: unknown): one is K extends 'act' ? Act : View =>
  typeof one === 'object' && one !== null && 'kind' in one && one.kind === kind

/** Everything that can be done. */
export const ACTS: readonly Act[] = declared([studentActs, advisingActs, collegeActs, officeActs, tokenActs]).filter(isOf('act'))
/** Everything that can be looked at. */
export const VIEWS: readonly View[] = declared([studentViews, advisingViews, collegeViews, officeViews, tokenViews,
  demandViews, findViews]).filter(isOf('view'))
