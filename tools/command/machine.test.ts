import { createServer } from 'node:net'
import { once } from 'node:events'
import { describe, expect, it } from 'vitest'
import { freePort, startServer } from './machine.mjs'

describe('starting a server', () => {
  it('says what to do where another program listens on its port, and starts nothing', async () => {
    const port = await freePort()
    const other = createServer().listen(port, '127.0.0.1')
    await once(other, 'listening')
    await expect(startServer({ databaseUrl: 'mysql://root@127.0.0.1:1/none', port, demo: true }))
      .rejects.toThrow(`Port ${port} of 127.0.0.1 is taken: another program listens there. Set PORT to one that is free.`)
    other.close()
    await once(other, 'close')
  })
})
