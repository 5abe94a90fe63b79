import fc from 'fast-check'
import { extract } from 'letterparser'
import PostalMime from 'postal-mime'
import { createTransport } from 'nodemailer'
import { describe, expect, it } from 'vitest'
import type { Notice } from '../../packages/core/src/advising'
import { writeMail } from '../../packages/words/src'

/**
 * Mails as they go out, read back by parsers of other hands: the message format of RFC 5322 with MIME (RFC 2045–2047). What is written is
 * what a mail program reads, in every script, and nothing of a file stands in it.
 */
const mailer = createTransport({ streamTransport: true, buffer: true, newline: 'windows' })
const TO = { college: 'Larkmoor College', address: 'https://ridgeway.example', zone: 'America/Denver' }
const raw = async (to: string, name: string, subject: string, text: string) => {
  const sent = await mailer.sendMail({ from: { name: 'Ridgeway, Larkmoor College', address: 'ridgeway@larkmoor.example' },
    to: { name, address: to }, subject, text, messageId: '<notices-1-2@larkmoor.example>' })
  return (sent.message as unknown as Buffer).toString('utf8')
}
const names = fc.constantFrom('Zoë Brandt', 'Łucja O’Hara', 'Tamsin Orrell', 'Ægir Þórsson', '李小龙', 'محمد')
const notice: fc.Arbitrary<Notice> = fc.oneof(
  fc.record({ code: fc.constantFrom('sign-off asked', 'signed off', 'returned', 'sign-off withdrawn' as const), term: fc.constant('2027SP'),
    by: names }),
  fc.record({ code: fc.constantFrom('suggested', 'suggestions answered' as const), count: fc.integer({ min: 1, max: 40 }), by: names }),
  fc.record({ code: fc.constantFrom('exception asked', 'exception granted', 'exception declined' as const), kind: fc.constantFrom('load',
    'clash' as const), by: names }),
  fc.record({ code: fc.constantFrom('meeting booked', 'meeting moved', 'meeting cancelled' as const),
    start: fc.constant('2026-11-10T17:15:00.000Z'), minutes: fc.constant(15), by: names }),
)

describe('a mail', () => {
  it('is read by two independent parsers as it was written', async () => {
    await fc.assert(fc.asyncProperty(fc.array(notice, { minLength: 1, maxLength: 12 }), names, fc.boolean(), async (notices, name, own) => {
      const { subject, text } = writeMail(notices.map((one, id) => ({ id, notice: one, own })), { ...TO, name })
      const mail = await raw('someone@larkmoor.example', name, subject, text)
      expect(mail.split('\r\n').every(line => Buffer.byteLength(line) <= 998)).toBe(true)
      // eslint-disable-next-line no-control-regex
      expect(/^[\x00-\x7F]*$/.test(mail.slice(0, mail.indexOf('\r\n\r\n')))).toBe(true)
      const [one, other] = [await PostalMime.parse(mail), extract(mail)]
      for (const read of [{ subject: one.subject, text: one.text, name: one.to?.[0]?.name, id: one.messageId },
        { subject: other.subject, text: other.text, name: other.to?.[0]?.name, id: '<notices-1-2@larkmoor.example>' }]) {
        expect(read.subject).toBe(subject)
        expect(read.text?.replaceAll('\r\n', '\n').trim()).toBe(text.trim())
        expect(read.name).toBe(name)
        expect(read.id).toBe('<notices-1-2@larkmoor.example>')
      }
    }), { numRuns: 60 })
  })

  it('to an advisor names no student, and says nothing but that something happened', () => {
    const { text } = writeMail([{ id: 1, notice: { code: 'sign-off asked', term: '2027SP', by: 'Tamsin Orrell' }, own: false },
      { id: 2, notice: { code: 'comment', place: 'course', by: 'Tamsin Orrell' }, own: false }], { ...TO, name: 'Hollis Brandt' })
    expect(text).toContain('Somebody commented on an advisee\'s plan')
    expect(text).toContain('An advisee asks for sign-off')
    expect(text).not.toContain('Orrell')
    expect(text).toContain('https://ridgeway.example/messages')
  })
})
