import type { Notice, NoticeWish } from '@ridgeway/core/advising'
import type { Executor } from '../database'
import { change, fromInstantText, plain, toInstant } from './plain'

interface NewNotice { person: number, student: number, at: string, notice: Notice, now: string, digest: string }
/** Tells somebody something; by mail as they wish, for a digest at the moment that is given. */
export const addNotice = (tx: Executor, one: NewNotice) =>
  plain(tx, `INSERT INTO notices (person, student, told_at, notice, mail, mail_at)
    SELECT ?, ?, ?, ?, IF(w.wish = 'none', 'none', 'wait'), IF(w.wish = 'digest', ?, ?)
    FROM (SELECT IFNULL((SELECT wish FROM notice_wishes WHERE person = ?), 'at once') wish) w`,
  [one.person, one.student, fromInstantText(one.at), JSON.stringify(one.notice), fromInstantText(one.digest), fromInstantText(one.now),
    one.person])

interface NoticeRow { id: number, student: number, name: string, at: string, notice: string, read: string | null }
export async function noticesOf(db: Executor, person: number, most: number) {
  const rows = await plain<NoticeRow>(db,
    `SELECT n.id, n.student, p.name, n.told_at at, n.notice, n.read_at \`read\` FROM notices n JOIN people p ON p.id = n.student
     WHERE n.person = ? ORDER BY n.id DESC LIMIT ?`, [person, most])
  return rows.map(row => ({ id: row.id, student: row.student, name: row.name, at: toInstant(row.at),
    notice: JSON.parse(row.notice) as Notice, read: row.read !== null }))
}
export const markNoticesRead = (tx: Executor, person: number, upTo: number, at: string) =>
  plain(tx, 'UPDATE notices SET read_at = ? WHERE person = ? AND id <= ? AND read_at IS NULL', [fromInstantText(at), person, upTo])
export async function wishOf(db: Executor, person: number): Promise<NoticeWish> {
  const [row] = await plain<{ wish: NoticeWish }>(db, 'SELECT wish FROM notice_wishes WHERE person = ?', [person])
  return row?.wish ?? 'at once'
}
export const keepWish = (tx: Executor, person: number, wish: NoticeWish) =>
  plain(tx, 'INSERT INTO notice_wishes (person, wish) VALUES (?, ?) ON DUPLICATE KEY UPDATE wish = VALUES(wish)', [person, wish])

export interface ToMail { id: number, person: number, name: string, email: string, notice: Notice, tries: number, isOwn: boolean }
/** Whether anything is due for mail; looked at often, and mostly nothing is. */
export const isMailDue = async (db: Executor, now: string) => (await plain(db,
  'SELECT 1 FROM notices WHERE mail IN (\'wait\', \'claimed\') AND mail_at <= ? LIMIT 1', [fromInstantText(now)])).length > 0
/** People who are looked at for one who is free. */
const CANDIDATES = 10
/**
 * Claims notices that are due for mail, all of one person's together; another server passes them over. They are free again after
 * `until`, so that nothing is lost with a server that dies.
 */
export async function claimMail(tx: Executor, now: string, until: string, most: number): Promise<ToMail[]> {
  const due = 'mail IN (\'wait\', \'claimed\') AND mail_at <= ?'
  const people = await plain<{ person: number, first: number }>(tx,
    `SELECT person, MIN(id) first FROM notices WHERE ${due} GROUP BY person ORDER BY MIN(mail_at), first LIMIT ?`,
    [fromInstantText(now), CANDIDATES])
  let ids: number[] = []
  for (const { person, first } of people) {
    // Whoever has a person's first notice has them all: who finds it taken goes on to somebody else.
    const [mine] = await plain(tx, `SELECT id FROM notices WHERE id = ? AND ${due} FOR UPDATE SKIP LOCKED`, [first, fromInstantText(now)])
    if (!mine) continue
    ids = (await plain<{ id: number }>(tx, `SELECT id FROM notices WHERE person = ? AND ${due} ORDER BY id LIMIT ? FOR UPDATE`,
      [person, fromInstantText(now), most])).map(row => row.id)
    break
  }
  if (ids.length === 0) return []
  await plain(tx, 'UPDATE notices SET mail = \'claimed\', mail_at = ?, tries = tries + 1 WHERE id IN (?)', [fromInstantText(until), ids])
  const found = await plain<Omit<ToMail, 'notice' | 'isOwn'> & { notice: string, own: number }>(tx,
    `SELECT n.id, n.person, p.name, p.email, n.notice, n.tries, n.student = n.person own
     FROM notices n JOIN people p ON p.id = n.person WHERE n.id IN (?) ORDER BY n.id`, [ids])
  return found.map(({ own, ...row }) => ({ ...row, isOwn: own === 1, notice: JSON.parse(row.notice) as Notice }))
}
export const markMailed = (tx: Executor, ids: readonly number[]) =>
  change(tx, 'UPDATE notices SET mail = \'sent\' WHERE id IN (?) AND mail = \'claimed\'', [[...ids]])
/** The mail server was away: again later. */
export const mailAgain = (tx: Executor, ids: readonly number[], at: string) =>
  change(tx, 'UPDATE notices SET mail = \'wait\', mail_at = ? WHERE id IN (?) AND mail = \'claimed\'', [fromInstantText(at), [...ids]])

export const keepCaught = (tx: Executor, mail: { id: string, to: string, at: string, raw: string }) => plain(tx,
  'INSERT IGNORE INTO caught_mails (id, sent_to, caught_at, raw) VALUES (?, ?, ?, ?)', [mail.id, mail.to, fromInstantText(mail.at),
    JSON.stringify(mail.raw)])
export async function caughtFor(db: Executor, person: number, most: number): Promise<{ id: string, at: string, raw: string }[]> {
  const rows = await plain<{ id: string, at: string, raw: string }>(db,
    `SELECT m.id, m.caught_at at, m.raw FROM caught_mails m JOIN people p ON p.email = m.sent_to WHERE p.id = ?
     ORDER BY m.caught_at DESC, m.id LIMIT ?`, [person, most])
  return rows.map(row => ({ ...row, at: toInstant(row.at), raw: JSON.parse(row.raw) as string }))
}
