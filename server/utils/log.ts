import pino from 'pino'

/**
 * What this server tells those who run it: one line of JSON each, with codes and routes. Never a name, an address of a page with a number
 * in it, or anything that people typed.
 */
const log = pino({ level: process.env.LOG_LEVEL ?? 'info', base: { server: process.env.RIDGEWAY_NAME || undefined } })

export const useLog = () => log
